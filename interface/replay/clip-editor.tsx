/** The chosen clip: its edges, angles, speed and notes. */
import { type Clip } from '#core/replay/document';
import { frameOfDay } from '#core/replay/edit';
import { TILE_COLOURS } from '#core/desk/create';
import { pictureName } from '#core/desk/pictures';
import { useShowClient, useShow, useSend } from '../client/show-client';
import { Button, withKey } from '../parts/button';
import { NumberField } from '../parts/number-field';
import { useRoom } from './room-state';
import { useDo } from '../control/do';
import { useKeyName } from '../client/hands';
import { TimecodeField } from '../parts/timecode-field';
import { useRoving } from '../parts/roving';
import { useDraft } from '../parts/use-draft';

/** A text that is kept when the field is left. */
function TextField({
  label,
  value,
  max,
  onCommit,
  className,
  role,
}: {
  label: string;
  role?: string;
  value: string;
  max: number;
  onCommit: (value: string) => void;
  className?: string;
}) {
  const [text, setText] = useDraft(value);
  const commit = () => text !== value && onCommit(text);
  return (
    <input
      data-role={role}
      aria-label={label}
      placeholder={label}
      maxLength={max}
      className={className}
      value={text}
      onChange={(e) => setText(e.target.value)}
      onBlur={commit}
      onKeyDown={(e) => {
        if (e.key === 'Enter') commit();
        if (e.key === 'Escape') setText(value);
      }}
    />
  );
}

/** In or out by timecode, by nudges, and to the playhead. The out shown is the last frame of the clip. */
function EdgeField({ clip, edge }: { clip: Clip; edge: 'in' | 'out' }) {
  const host = useShowClient();
  const send = useSend();
  const deck = useRoom((s) => s.deck);
  const rate = useShow(({ desk: { show } }) => show.rate);
  const typeKey = useKeyName(edge === 'in' ? 'replay.editIn' : 'replay.editOut');
  const shown = edge === 'in' ? clip.in : clip.out - 1;
  const commit = (spoken: number) => {
    const frame = frameOfDay(spoken, host.state.frame, rate);
    send('clip.edit', { clip: clip.id, [edge]: edge === 'in' ? frame : frame + 1 });
  };
  const nudge = (frames: number) => (
    <Button
      className="figures px-1.5!"
      keyFor={edge === 'in' ? 'replay.nudgeIn' : 'replay.nudgeOut'}
      keyArgs={{ frames }}
      aria-label={`${edge} ${frames} frames`}
      onClick={() => send('clip.nudge', { clip: clip.id, edge, frames })}
    >
      {frames > 0 ? `+${frames}` : `−${-frames}`}
    </Button>
  );
  return (
    <div className="flex flex-wrap items-center gap-1">
      <span className="w-7 text-muted">{edge === 'in' ? 'In' : 'Out'}</span>
      <TimecodeField
        role={`edge-${edge}`}
        label={`${edge} point of the clip`}
        title={withKey('Typed as spoken: 115410, 54:00, +10', typeKey)}
        className="w-28"
        value={shown}
        rate={rate}
        from={() => shown}
        onCommit={commit}
      />
      {nudge(-10)}
      {nudge(-1)}
      {nudge(1)}
      {nudge(10)}
      <Button
        className="px-1.5!"
        title={`Set to where deck ${deck} stands`}
        keyFor={edge === 'in' ? 'replay.inHere' : 'replay.outHere'}
        onClick={() => send('clip.setEdge', { clip: clip.id, edge, deck })}
      >
        Here
      </Button>
    </div>
  );
}

/** What one clip is, or what several chosen clips share. */
export function ClipEditor() {
  const send = useSend();
  const act = useDo();
  const box = useRoving<HTMLElement>();
  const chosen = useRoom((s) => s.chosen);
  const show = useShow(({ desk }) => desk.show);
  const clips = show.replay.clips.filter((c) => chosen.includes(c.id));
  const [clip] = clips;
  if (!clip)
    return <p className="border-t border-line p-2 text-muted">Choose a clip to edit it. With several, an edit touches all of them.</p>;
  const ids = clips.map((c) => c.id);
  const one = clips.length === 1;
  return (
    <section ref={box} aria-label="Edit" className="flex flex-col gap-1.5 border-t border-line bg-panel p-1.5">
      {one ? (
        <>
          <div className="flex gap-1">
            <span className="figures self-center px-1 font-semibold">{clip.number}</span>
            <TextField
              role="clip-name"
              label="Name"
              max={120}
              className="min-w-0 flex-1"
              value={clip.name}
              onCommit={(name) => name !== '' && send('clip.edit', { clip: clip.id, name })}
            />
            <Button className="px-1.5!" title="Split at the playhead" keyFor="replay.split" onClick={() => act('replay.split')}>
              Split
            </Button>
            <Button className="px-1.5!" keyFor="replay.duplicate" onClick={() => act('replay.duplicate')}>
              Duplicate
            </Button>
          </div>
          <EdgeField clip={clip} edge="in" />
          <EdgeField clip={clip} edge="out" />
        </>
      ) : (
        <p className="font-semibold text-straw">{clips.length} clips: an edit touches all of them</p>
      )}
      <div className="flex items-center gap-1">
        <NumberField
          className="w-20"
          label="Speed of the clip"
          unit="%"
          min={1}
          max={200}
          value={clip.speed}
          onCommit={(speed) => send('clip.set', { clips: ids, speed: Math.round(speed) })}
        />
        <span className="ml-1 text-muted">Angles</span>
        {show.replay.angles.map(({ pictureId: sourceId }, i) => {
          const order = clip.angleIds.indexOf(sourceId);
          return (
            <Button
              key={sourceId}
              className="figures min-w-8 px-1.5!"
              pressed={order >= 0}
              title={`${pictureName(show, sourceId)}: the only angle; with Shift added, or taken away${order >= 0 ? `. Shown as number ${order + 1}` : ''}`}
              keyFor="replay.clipAngle"
              keyArgs={{ number: i + 1 }}
              onClick={(e) =>
                e.shiftKey
                  ? send('clip.toggleAngle', { clips: ids, angle: sourceId })
                  : send('clip.set', { clips: ids, angleIds: [sourceId] })
              }
            >
              {i + 1}
              {order >= 0 && clip.angleIds.length > 1 && <sub>{order + 1}</sub>}
            </Button>
          );
        })}
      </div>
      <div className="flex items-center gap-1">
        {[1, 2, 3, 4, 5].map((n) => (
          <button
            key={n}
            type="button"
            className={`min-h-7 px-0.5 text-lg leading-none ${clip.rating >= n ? 'text-straw' : 'text-line'}`}
            aria-label={`Rate ${n}`}
            title={`Alt ${n}`}
            onClick={() => send('clip.set', { clips: ids, rating: clip.rating === n ? 0 : n })}
          >
            ★
          </button>
        ))}
        <span className="ml-2 flex gap-0.5" role="group" aria-label="Colour">
          {TILE_COLOURS.map((colour) => (
            <button
              key={colour}
              type="button"
              aria-label={`Colour ${colour}`}
              aria-pressed={clip.colour === colour}
              className={`h-6 w-6 border-2 ${clip.colour === colour ? 'border-text' : 'border-transparent'}`}
              style={{ background: colour }}
              onClick={() => send('clip.set', { clips: ids, colour })}
            />
          ))}
        </span>
      </div>
      <div className="flex gap-1">
        <TextField
          label="Tags"
          max={200}
          className="min-w-0 flex-1"
          value={clip.tags}
          onCommit={(tags) => send('clip.set', { clips: ids, tags })}
        />
        {one && (
          <TextField
            label="Note"
            max={2000}
            className="min-w-0 flex-[2]"
            value={clip.note}
            onCommit={(note) => send('clip.edit', { clip: clip.id, note })}
          />
        )}
      </div>
    </section>
  );
}
