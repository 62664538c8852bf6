/** Everything about one source, in a dialog. */
import { traitsOf } from '#core/show/source-kinds';
import { type ReactNode, useState } from 'react';
import { findSource } from '#core/desk/pictures';
import { AT_END, type MediaSettings, type Source } from '#core/show/source';
import { usesOf } from '#core/desk/uses';
import { formatDuration } from '#core/time/duration';
import { playerState } from '#core/media/player';
import { useLive, useSend, useShow, useShowClient } from '../client/show-client';
import { Button } from '../parts/button';
import { Dialog } from '../parts/dialog';
import { NumberField } from '../parts/number-field';
import { RasterField } from '../shows/raster-field';
import { EyeMark } from '../layouts/eye-mark';
import { EncoderPart } from './encoder-part';
import { CameraForm } from './camera-form';

function Row({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div className="grid grid-cols-[130px_1fr] items-center gap-2">
      <span className="text-muted">{label}</span>
      <div className="flex flex-wrap items-center gap-2">{children}</div>
    </div>
  );
}

const END_WORDS = { hold: 'hold the last picture', loop: 'loop', black: 'go to black' } as const;

function MediaPart({ source, settings }: { source: Source; settings: MediaSettings }) {
  const send = useSend();
  const position = useLive(
    ({ desk: { show, air }, frame }) => Math.round(playerState(air, source.id, settings, frame, show.rate).position * 10) / 10,
  );
  const set = (change: Partial<MediaSettings>) => send('media.setPlayback', { source: source.id, ...change });
  return (
    <>
      <Row label="Place">
        <input
          type="range"
          aria-label="Place in the file, seconds"
          className="flex-1"
          min={settings.in}
          max={settings.out ?? settings.duration}
          step={0.04}
          value={position}
          onChange={(e) => send('media.seek', { source: source.id, position: Number(e.target.value) })}
        />
        <span className="figures">
          {formatDuration(position)} / {formatDuration(settings.duration)}
        </span>
      </Row>
      <Row label="In and out">
        <NumberField
          className="w-24"
          label="In point, seconds"
          min={0}
          max={settings.duration}
          digits={2}
          value={settings.in}
          onCommit={(v) => set({ in: v })}
        />
        <NumberField
          className="w-24"
          label="Out point, seconds"
          min={0}
          max={settings.duration}
          digits={2}
          value={settings.out ?? settings.duration}
          onCommit={(v) => set({ out: v >= settings.duration ? null : v })}
        />
        <span className="text-xs text-muted">seconds</span>
        <Button onClick={() => set({ in: position })}>In here</Button>
        <Button onClick={() => set({ out: position })}>Out here</Button>
      </Row>
      <Row label="When taken">
        <label className="flex items-center gap-1.5">
          <input type="checkbox" checked={settings.startOnTake} onChange={(e) => set({ startOnTake: e.target.checked })} /> play from the in
          point
        </label>
      </Row>
      <Row label="At the end">
        <select aria-label="At the end" value={settings.atEnd} onChange={(e) => set({ atEnd: e.target.value as MediaSettings['atEnd'] })}>
          {AT_END.map((end) => (
            <option key={end} value={end}>
              {END_WORDS[end]}
            </option>
          ))}
        </select>
      </Row>
    </>
  );
}

/** Everything about one source: name, number, group, device or playing, and removing it. */
export function SourceDialog({ sourceId, onClose }: { sourceId: string | null; onClose: () => void }) {
  const { source, groups, uses, health } = useLive(({ desk: { show, air }, frame, health }) => ({
    source: findSource(show, sourceId),
    groups: show.groups,
    uses:
      sourceId === null
        ? ''
        : usesOf(show, air, 'source', sourceId, frame)
            .map((u) => u.place)
            .join('; '),
    health: sourceId === null ? undefined : health[sourceId],
  }));
  if (!source) return null;
  return (
    <Dialog
      open
      onClose={onClose}
      title={source.name}
      {...(health?.state === 'lost' ? { about: `No picture: ${health.cause}.` } : {})}
      wide
    >
      <Fields key={source.id} source={source} groups={groups} uses={uses} onClose={onClose} />
    </Dialog>
  );
}

function Fields({
  source,
  groups,
  uses,
  onClose,
}: {
  source: Source;
  groups: { id: string; name: string }[];
  uses: string;
  onClose: () => void;
}) {
  const host = useShowClient();
  const send = useSend();
  const [name, setName] = useState(source.name);
  const [sure, setSure] = useState(false);
  const { settings } = source;
  const comes = useShow((s) => (Object.hasOwn(s.sizes, source.id) ? s.sizes[source.id] : undefined));
  const raster = useShow(({ desk }) => desk.show.raster);
  const differs = comes && source.expects && (comes.width !== source.expects.width || comes.height !== source.expects.height);
  const group = groups.find((g) => g.id === source.groupId);
  const remove = () => {
    if (send('source.remove', { source: source.id, force: sure })) onClose();
    else setSure(true);
  };
  return (
    <div className="flex flex-col gap-2.5">
      <Row label="Name">
        <input
          className="flex-1"
          aria-label="Name"
          value={name}
          onChange={(e) => setName(e.target.value)}
          onBlur={() => name.trim() && name !== source.name && send('source.edit', { source: source.id, name: name.trim() })}
          onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
        />
        <input
          type="color"
          aria-label="Colour of the tile"
          className="h-8 w-10 p-0.5!"
          value={source.colour}
          onChange={(e) => send('source.edit', { source: source.id, colour: e.target.value })}
        />
      </Row>
      <Row label="Number on keys">
        <NumberField
          className="w-20"
          label="Number on keys; 0 for none"
          min={0}
          max={99}
          value={source.number ?? 0}
          onCommit={(v) => send('source.pin', { source: source.id, number: v === 0 ? null : v })}
        />
        <span className="text-xs text-muted">stays when the order changes; 0 for none</span>
      </Row>
      <Row label="Group">
        <select
          aria-label="Group"
          value={source.groupId ?? ''}
          onChange={(e) => send('source.setGroup', { source: source.id, group: e.target.value || null })}
        >
          <option value="">none</option>
          {groups.map((g) => (
            <option key={g.id} value={g.id}>
              {g.name}
            </option>
          ))}
        </select>
        {group && (
          <>
            <input
              key={group.id}
              aria-label="Name of the group"
              defaultValue={group.name}
              onBlur={(e) =>
                e.target.value.trim() &&
                e.target.value !== group.name &&
                send('group.edit', { group: group.id, name: e.target.value.trim() })
              }
            />
            <Button look="quiet" onClick={() => send('group.remove', { group: group.id })}>
              Remove group
            </Button>
          </>
        )}
      </Row>
      <Row label="List">
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            checked={source.feedsOnly}
            onChange={(e) => send('source.edit', { source: source.id, feedsOnly: e.target.checked })}
          />{' '}
          feeds lanes and layouts only: not in the switching list
        </label>
      </Row>
      {traitsOf(source).people && (
        <Row label="Eyes">
          <EyeMark sourceId={source.id} />
          <span className="text-xs text-muted">press on the eyes, once: layouts can frame by them</span>
        </Row>
      )}
      <Row label="Planned size">
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            checked={source.expects !== null}
            onChange={(e) => send('source.edit', { source: source.id, expects: e.target.checked ? (comes ?? raster) : null })}
          />{' '}
          it is to come with
        </label>
        {source.expects && (
          <RasterField value={source.expects} onChange={(expects) => send('source.edit', { source: source.id, expects: { ...expects } })} />
        )}
        {comes && (
          <span className={`figures text-xs ${differs ? 'text-caution' : 'text-muted'}`}>
            comes as {comes.width}×{comes.height}
          </span>
        )}
      </Row>
      {settings.kind === 'media' && <MediaPart source={source} settings={settings} />}
      {settings.kind === 'colour' && (
        <Row label="Colour">
          <input
            type="color"
            aria-label="Colour"
            className="h-8 w-12 p-0.5!"
            value={settings.colour}
            onChange={(e) => send('source.setSettings', { source: source.id, settings: { kind: 'colour', colour: e.target.value } })}
          />
        </Row>
      )}
      {settings.kind === 'encoder' && (
        <Row label="Encoder">
          <EncoderPart source={source} />
        </Row>
      )}
      {settings.kind === 'camera' && (
        <Row label="Device">
          <span>{settings.deviceLabel || 'default camera'}</span>
          <CameraForm
            verb="Change"
            onChoose={(_, next) => send('source.setSettings', { source: source.id, settings: next as unknown as Record<string, unknown> })}
          />
        </Row>
      )}
      <div className="flex items-center gap-2 border-t border-line pt-3">
        <Button look="air" onClick={remove}>
          {sure ? 'Remove all the same' : 'Remove'}
        </Button>
        <span className="text-xs text-muted">{uses ? `In use: ${uses}.` : 'Not in use.'}</span>
        <Button className="ml-auto" onClick={() => host.restartSource(source.id)}>
          Restart
        </Button>
        <Button look="straw" onClick={onClose}>
          Done
        </Button>
      </div>
    </div>
  );
}
