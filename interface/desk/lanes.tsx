import { Link2, Settings2 } from 'lucide-react';
import { useState } from 'react';
import { laneHoldsNew } from '#core/picture/plan';
import { createAirLane, laneFade, laneIsUp, lanePictures } from '#core/show/air';
import { type Lane, sourceName } from '#core/show/show';
import { formatTimeLeft } from '#core/time/duration';
import { useHostState, useSend } from '../host/host-context';
import { Button } from '../parts/button';
import { NumberField } from '../parts/number-field';
import { TimeLeft } from '../parts/time-left';

const KEYS = ['Q', 'W', 'E', 'R'];

/** What a lane shows now and how it stands, as plain values. */
function useLaneState(lane: Lane) {
  return useHostState(({ desk: { show, air }, frame }) => {
    const state = air.lanes[lane.id] ?? createAirLane();
    const top = lanePictures(state, frame).at(-1)?.picture;
    const up = laneIsUp(state, frame);
    const left = up && state.leaveAt !== null ? ((state.leaveAt - frame) * show.rate.den) / show.rate.num : null;
    const moving = state.picture !== null && frame < laneFade(state, frame).start + laneFade(state, frame).frames;
    return {
      up,
      armed: state.armed,
      moving,
      shownSource: top?.kind === 'source' ? top.id : null,
      shown: top ? (top.kind === 'card' ? top.card.name : sourceName(show, top.id)) : '',
      left: left === null ? '' : formatTimeLeft(left),
      ending: left !== null && left <= 10,
      holdsNew: up && laneHoldsNew(show, lane, state),
    };
  });
}

function LaneRow({ lane, index }: { lane: Lane; index: number }) {
  const send = useSend();
  const [open, setOpen] = useState(false);
  const { up, armed, moving, shown, shownSource, left, ending, holdsNew } = useLaneState(lane);
  const { cards, sources } = useHostState(({ desk: { show } }) => ({ cards: show.cards, sources: show.sources }));
  const value = lane.content ? `${lane.content.kind} ${lane.content.id}` : '';
  const choose = (text: string) => {
    const [kind, id] = text.split(' ');
    send('lane.setContent', { lane: lane.id, content: kind ? { kind, id } : null });
  };
  return (
    <li className={`border-b border-line px-2 py-1.5 ${up ? 'bg-air/10' : ''}`}>
      <div className="flex items-center gap-1.5">
        <span className="truncate font-semibold">{lane.name}</span>
        {up && <span className="figures bg-air px-1 text-[13px] leading-tight font-semibold text-deep">{moving ? 'IN…' : 'AIR'}</span>}
        {!up && shown && <span className="figures border border-air px-1 text-[13px] leading-tight text-air">OUT…</span>}
        {left && <span className={`figures px-1 text-lg leading-none ${ending ? 'bg-caution font-semibold text-deep' : ''}`}>{left}</span>}
        <TimeLeft sourceId={shownSource} className="text-lg" />
        <Button look="quiet" className="ml-auto px-1!" aria-label={`Set up ${lane.name}`} aria-expanded={open} onClick={() => setOpen(!open)}>
          <Settings2 size={15} />
        </Button>
        <Button className="px-1.5!" pressed={armed} title={`With the next take (Shift ${KEYS[index]})`} aria-label={`${lane.name} with the next take`} onClick={() => send('lane.arm', { lane: lane.id })}>
          <Link2 size={15} />
        </Button>
        <Button look={up ? 'air' : 'plain'} className="w-15" title={`${up ? 'Hide' : 'Show'} (${KEYS[index]})`} aria-label={`${up ? 'Hide' : 'Show'} ${lane.name}`} onClick={() => send('lane.toggle', { lane: lane.id })}>
          {up ? 'Hide' : 'Show'}
        </Button>
      </div>
      <div className="mt-1 flex items-center gap-1.5">
        <select aria-label={`What ${lane.name} holds ready`} className="min-w-0 flex-1" value={value} onChange={(e) => choose(e.target.value)}>
          <option value="">nothing held ready</option>
          <optgroup label="Name cards">
            {cards.map((c) => (
              <option key={c.id} value={`card ${c.id}`}>
                {c.name || '(no name)'}
              </option>
            ))}
          </optgroup>
          <optgroup label="Sources">
            {sources.map((s) => (
              <option key={s.id} value={`source ${s.id}`}>
                {s.name}
              </option>
            ))}
          </optgroup>
        </select>
        {holdsNew && (
          <Button onClick={() => send('lane.show', { lane: lane.id })} title={`On air is ${shown}`}>
            Change
          </Button>
        )}
      </div>
      {open && (
        <div className="mt-1.5 flex flex-wrap items-end gap-2">
          <label className="flex flex-col gap-0.5">
            <span className="text-xs text-muted">Name</span>
            <input className="w-24" defaultValue={lane.name} onBlur={(e) => e.target.value.trim() && e.target.value !== lane.name && send('lane.set', { lane: lane.id, name: e.target.value.trim() })} />
          </label>
          <NumberField className="w-16" showLabel label="Fade, frames" min={0} max={600} value={lane.fadeFrames} onCommit={(v) => send('lane.set', { lane: lane.id, fadeFrames: v })} />
          <NumberField className="w-24" showLabel label="Leaves after, s" min={0} max={86400} digits={1} value={lane.holdSeconds ?? 0} onCommit={(v) => send('lane.set', { lane: lane.id, holdSeconds: v < 0.2 ? null : v })} />
          <span className="pb-1 text-xs text-muted">0 stays</span>
        </div>
      )}
    </li>
  );
}

/** The lanes over the picture, the highest first. */
export function Lanes() {
  const lanes = useHostState(({ desk: { show } }) => show.lanes);
  return (
    <section aria-label="Lanes" className="shrink-0">
      <h2 className="px-2 py-1 font-semibold">Over the picture</h2>
      <ol>
        {lanes
          .map((lane, index) => <LaneRow key={lane.id} lane={lane} index={index} />)
          .reverse()}
      </ol>
    </section>
  );
}
