/** What replay records, and how: angles, sizes, budget, joins. */
import { ArrowDown, ArrowUp, Trash2 } from 'lucide-react';
import { type ReactNode } from 'react';
import { MOST_ANGLES, PROGRAMME_SOUND, type ReplaySettings } from '#core/replay/document';
import { findSource, pictureName } from '#core/desk/pictures';
import { hasSound, isKind, traitsOf } from '#core/show/source-kinds';
import { PictureSelect } from '../parts/picture-select';
import { formatBytes, formatDuration } from '#core/time/duration';
import { useShow, useSend } from '../client/show-client';
import { IconButton } from '../parts/icon-button';
import { NumberField } from '../parts/number-field';

function AngleRow({ index, pictureId, soundId }: { index: number; pictureId: string; soundId: string | null }) {
  const send = useSend();
  const { show, track } = useShow(({ desk, replay }) => ({ show: desk.show, track: replay?.tracks.find((t) => t.id === pictureId) }));
  const bad = track?.state === 'failed' || (track?.missed ?? 0) > 0;
  const state = !track
    ? 'not recording'
    : track.trouble || `${((track.bytesPerSecond * 8) / 1e6).toFixed(1)} Mb/s${track.missed > 0 ? ` · ${track.missed} missed` : ''}`;
  return (
    <li className="border-b border-line px-2 py-1.5">
      <div className="flex items-center gap-1.5">
        <span className="figures w-5 font-semibold">{index + 1}</span>
        <span className="min-w-0 flex-1 truncate">{pictureName(show, pictureId)}</span>
        <IconButton
          label={`Angle ${index + 1} up`}
          onClick={() => send('replay.moveAngle', { angle: pictureId, index: Math.max(0, index - 1) })}
        >
          <ArrowUp size={14} />
        </IconButton>
        <IconButton
          label={`Angle ${index + 1} down`}
          onClick={() => send('replay.moveAngle', { angle: pictureId, index: Math.min(MOST_ANGLES - 1, index + 1) })}
        >
          <ArrowDown size={14} />
        </IconButton>
        <IconButton
          label={`Record ${pictureName(show, pictureId)} no longer`}
          title="Record it no longer; what is recorded stays"
          onClick={() => send('replay.removeAngle', { angle: pictureId })}
        >
          <Trash2 size={14} />
        </IconButton>
      </div>
      <div className="flex items-center gap-1.5 pl-6">
        <label className="flex items-center gap-1 text-[13px] text-muted">
          Sound
          <select
            aria-label={`Sound of angle ${index + 1}`}
            className="w-40"
            value={soundId ?? ''}
            onChange={(e) => send('replay.setAngleSound', { angle: pictureId, sound: e.target.value || null })}
          >
            <option value="">none</option>
            <option value={PROGRAMME_SOUND}>the programme</option>
            {show.sources
              .filter((s) => hasSound(s) && !isKind(s, 'deck'))
              .map((s) => (
                <option key={s.id} value={s.id}>
                  {s.id === pictureId ? 'its own' : s.name}
                </option>
              ))}
          </select>
        </label>
        <span className={`figures ml-auto text-[13px] ${bad ? 'text-caution' : 'text-muted'}`}>{state}</span>
      </div>
    </li>
  );
}

function AddAngle() {
  const send = useSend();
  const show = useShow(({ desk }) => desk.show);
  const taken = new Set(show.replay.angles.map((a) => a.pictureId));
  /** Decks play what is recorded, and what stands still needs no replay. */
  const sensible = ({ id }: { id: string }) => {
    const source = findSource(show, id);
    return !taken.has(id) && (!source || (traitsOf(source).moves && !isKind(source, 'deck')));
  };
  if (taken.size >= MOST_ANGLES) return <p className="p-2 text-muted">Eight angles are recorded, the most there can be.</p>;
  return (
    <PictureSelect
      label="Add an angle"
      className="m-2"
      kinds={['source', 'output', 'layout', 'framing', 'seat', 'preset', 'gathering']}
      none="Record another picture…"
      keep={sensible}
      value={null}
      onChange={(picture) => picture !== null && send('replay.addAngle', { picture })}
    />
  );
}

/** What is used of the budget, and how long it lasts. */
export function BudgetLine() {
  const { status, on, kind, hours } = useShow(({ replay, desk: { show, air } }) => ({
    status: replay,
    hours: show.replay.settings.budget.value,
    on: air.replay.recording !== null,
    kind: show.replay.settings.budget.kind,
  }));
  if (!status) return null;
  const share = status.limitBytes > 0 ? Math.min(1, status.usedBytes / status.limitBytes) : 0;
  const left =
    status.secondsLeft < 0 ? '–' : status.secondsLeft < 1 ? 'the oldest goes' : formatDuration(Math.min(status.secondsLeft, 359_999));
  return (
    <div className="px-2 py-1.5" aria-label="Budget">
      <div className="h-2 bg-deep" role="progressbar" aria-valuenow={Math.round(share * 100)} aria-label="Budget used">
        <div className={`h-full ${status.overfull ? 'bg-air' : 'bg-next'}`} style={{ width: `${share * 100}%` }} />
      </div>
      <p
        className="figures mt-1 flex flex-wrap justify-between gap-x-3 text-[13px] whitespace-nowrap"
        title={`At ${((status.bytesPerSecond * 8) / 1e6).toFixed(1)} Mb/s, measured over all angles. After that the oldest goes, never what a clip uses.`}
      >
        <span>
          {formatBytes(status.usedBytes)} <span className="text-muted">of</span>{' '}
          {kind === 'hours' && !on ? `${hours} h` : formatBytes(status.limitBytes)}
        </span>
        {on && (
          <span>
            {left} {status.secondsLeft >= 1 && <span className="text-muted">left</span>}
          </span>
        )}
      </p>
    </div>
  );
}

/** Angles and settings of the recording and of the decks. */
export function AnglesPanel() {
  const send = useSend();
  const { angles, settings, on, transitions, files, show } = useShow(({ desk: { show, air } }) => ({
    angles: show.replay.angles,
    settings: show.replay.settings,
    on: air.replay.recording !== null,
    transitions: show.transitions,
    files: show.sources,
    show,
  }));
  const cache = useShow((s) => s.replayCache);
  const set = (change: Partial<ReplaySettings>) => send('replay.set', { ...change });
  const { budget } = settings;
  const field = (label: string, control: ReactNode) => (
    <label className="flex items-center justify-between gap-2 px-2 py-1">
      <span className="text-muted">{label}</span>
      {control}
    </label>
  );
  const number = (label: string, key: keyof ReplaySettings, min: number, max: number, unit: string, digits = 0) => (
    <NumberField
      className="w-28"
      label={label}
      unit={unit}
      min={min}
      max={max}
      digits={digits}
      value={settings[key] as number}
      onCommit={(value) => set({ [key]: value })}
    />
  );
  const flag = (label: string, key: 'blend' | 'soundAtSpeed') =>
    field(label, <input type="checkbox" checked={settings[key]} onChange={(e) => set({ [key]: e.target.checked })} />);
  return (
    <div className="flex flex-col pb-3">
      <ul aria-label="Angles">
        {angles.map(({ pictureId, soundId }, i) => (
          <AngleRow key={pictureId} index={i} pictureId={pictureId} soundId={soundId} />
        ))}
        {angles.length === 0 && (
          <li className="p-2 text-muted">No angles yet. Choose two to eight sources: they are recorded together, all the time.</li>
        )}
      </ul>
      <AddAngle />
      <h3 className="px-2 pt-2 font-semibold">Recording</h3>
      <BudgetLine />
      {field(
        'Budget',
        <span className="flex gap-1">
          <NumberField
            className="w-20"
            label="Budget"
            min={0.005}
            max={20000}
            digits={3}
            value={budget.value}
            onCommit={(value) => set({ budget: { ...budget, value } })}
          />
          <select
            aria-label="Budget counts"
            value={budget.kind}
            onChange={(e) => set({ budget: { ...budget, kind: e.target.value as typeof budget.kind } })}
          >
            <option value="gigabytes">GB</option>
            <option value="hours">hours</option>
          </select>
        </span>,
      )}
      {field('Quality of each angle', number('Quality of each angle', 'megabits', 0.2, 50, 'Mb/s', 1))}
      {field(
        'Picture size',
        <select
          aria-label="Picture size"
          value={settings.height}
          disabled={on}
          title={on ? 'Stop recording to change it.' : undefined}
          onChange={(e) => set({ height: Number(e.target.value) })}
        >
          <option value={0}>as it comes</option>
          {[1080, 720, 540, 360, 240].map((h) => (
            <option key={h} value={h}>
              at most {h} lines
            </option>
          ))}
        </select>,
      )}
      <h3 className="px-2 pt-2 font-semibold">Grab and look-back</h3>
      {field('Grab, first length', number('Grab, first length', 'grab1', 0.5, 600, 's', 1))}
      {field('Grab, second length', number('Grab, second length', 'grab2', 0.5, 600, 's', 1))}
      {field('Grab, third length', number('Grab, third length', 'grab3', 0.5, 600, 's', 1))}
      {field('Look-back', number('Look-back', 'lookBackSeconds', 1, 600, 's', 1))}
      <h3 className="px-2 pt-2 font-semibold">Play-out</h3>
      {field(
        'Roll to air by',
        <select
          aria-label="Roll to air by"
          className="w-44"
          value={settings.transitionId ?? ''}
          onChange={(e) => set({ transitionId: e.target.value || null })}
        >
          <option value="">the armed transition</option>
          {transitions.map((t) => (
            <option key={t.id} value={t.id}>
              {t.name}
            </option>
          ))}
        </select>,
      )}
      {field(
        'Between clips',
        <span className="flex gap-1">
          <select
            aria-label="Between clips"
            value={settings.join}
            onChange={(e) => set({ join: e.target.value as ReplaySettings['join'] })}
          >
            <option value="cut">cut</option>
            <option value="dissolve">dissolve</option>
          </select>
          {settings.join === 'dissolve' && (
            <NumberField
              className="w-24"
              label="Length of the dissolve"
              unit="fr"
              min={1}
              max={250}
              value={settings.joinFrames}
              onCommit={(joinFrames) => set({ joinFrames: Math.round(joinFrames) })}
            />
          )}
        </span>,
      )}
      {field(
        'At the end, on the deck',
        <select
          aria-label="At the end, on the deck"
          value={settings.after}
          onChange={(e) => set({ after: e.target.value as ReplaySettings['after'] })}
        >
          <option value="hold">hold the last frame</option>
          <option value="loop">begin again</option>
        </select>,
      )}
      {field(
        'Music under play-outs',
        <select
          aria-label="Music under play-outs"
          className="w-44"
          value={settings.musicId ?? ''}
          onChange={(e) => set({ musicId: e.target.value || null })}
        >
          <option value="">none</option>
          {files
            .filter((s) => isKind(s, 'media') && hasSound(s))
            .map((s) => (
              <option key={s.id} value={s.id}>
                {pictureName(show, s.id)}
              </option>
            ))}
        </select>,
      )}
      {settings.musicId !== null && field('Fade of the music', number('Fade of the music', 'musicFade', 0, 30, 's', 1))}
      {flag('Slow motion blends frames', 'blend')}
      {flag('Sound at other speeds too', 'soundAtSpeed')}
      {field('Memory for frames', number('Memory for frames', 'cacheMegabytes', 8, 4096, 'MB'))}
      <p className="px-2 text-[13px] text-muted">{formatBytes(cache)} of decoded frames are kept now.</p>
    </div>
  );
}
