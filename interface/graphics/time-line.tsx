/** The small time line below the stage: how each element comes, goes and changes, as bars; and the trial beside air. */
import { Pause, Play, Square } from 'lucide-react';
import { nanoid } from 'nanoid';
import { type PointerEvent, useEffect, useRef, useState } from 'react';
import { type Graphic } from '#core/graphics/document';
import { type Element, type ElementMove } from '#core/graphics/element';
import { trialOf } from '#core/graphics/trial';
import { useKeyName } from '../client/hands';
import { useSendAll, useShow } from '../client/show-client';
import { Button } from '../parts/button';
import { region } from '../parts/region';
import { setGraphicsRoom, useGraphicsRoom } from './room-state';

/** Lets the trial run while it plays, at a speed. */
function usePlaying(graphic: Graphic, speed: number): void {
  const playing = useGraphicsRoom((s) => s.playing);
  const rate = useShow(({ desk }) => desk.show.rate);
  useEffect(() => {
    if (!playing) return undefined;
    const { all } = trialOf(graphic);
    const from = useGraphicsRoom.getState().trial ?? 0;
    const begun = performance.now();
    let id = 0;
    const step = () => {
      const frame = from + Math.floor((((performance.now() - begun) / 1000) * rate.num * speed) / rate.den);
      setGraphicsRoom({ trial: all > 0 ? frame % (all + 1) : 0 });
      id = requestAnimationFrame(step);
    };
    id = requestAnimationFrame(step);
    return () => cancelAnimationFrame(id);
  }, [playing, graphic, rate, speed]);
}

const PHASES = {
  in: ['bg-next/70', 'comes'],
  hold: ['bg-straw/70', 'moves while it stays'],
  change: ['bg-text/40', 'changes'],
  out: ['bg-air/70', 'goes'],
} as const;

/** One bar: dragged as a whole it begins later, by its end it lasts longer. */
function Bar({
  graphic,
  element,
  phase,
  move,
  from,
  all,
}: {
  graphic: Graphic;
  element: Element;
  phase: keyof typeof PHASES;
  move: ElementMove;
  from: number;
  all: number;
}) {
  const sendAll = useSendAll();
  const drag = useRef<{ x: number; start: number; frames: number; end: boolean; gesture: string } | null>(null);
  const begin = (event: PointerEvent<HTMLElement>, end: boolean) => {
    event.stopPropagation();
    event.currentTarget.setPointerCapture(event.pointerId);
    drag.current = { x: event.clientX, start: move.start, frames: move.frames, end, gesture: nanoid() };
  };
  const go = (event: PointerEvent<HTMLElement>) => {
    const d = drag.current;
    const line = event.currentTarget.closest<HTMLElement>('[data-line]');
    if (!d || !line) return;
    const by = Math.round(((event.clientX - d.x) / line.clientWidth) * all);
    const change = d.end ? { frames: Math.max(0, d.frames + by) } : { start: Math.max(0, d.start + by) };
    const of = { graphic: graphic.id, elements: [element.id] };
    const command =
      phase === 'hold'
        ? { type: 'element.set', args: { ...of, hold: { ...move, ...change } } }
        : { type: 'element.move', args: { ...of, phase, ...change } };
    sendAll([command], d.gesture);
  };
  const stop = () => (drag.current = null);
  return (
    <span
      className={`absolute top-1 bottom-1 cursor-grab ${PHASES[phase][0]}`}
      style={{ left: `${((from + move.start) / all) * 100}%`, width: `${Math.max(0.5, (move.frames / all) * 100)}%` }}
      title={`${element.name} ${PHASES[phase][1]}: ${move.way}, from ${move.start}, ${move.frames} frames`}
      onPointerDown={(e) => begin(e, false)}
      onPointerMove={go}
      onPointerUp={stop}
    >
      <span
        className="absolute top-0 right-0 bottom-0 w-1.5 cursor-ew-resize bg-text/60"
        onPointerDown={(e) => begin(e, true)}
        onPointerMove={go}
        onPointerUp={stop}
      />
    </span>
  );
}

/** Frame, speed and play of the trial, and the bars of all elements that move. */
export function TimeLine({ graphic }: { graphic: Graphic }) {
  const { trial, playing, chosen } = useGraphicsRoom();
  const [speed, setSpeed] = useState(1);
  usePlaying(graphic, speed);
  const key = useKeyName('graphics.space');
  const { comes, hold, goes, all } = trialOf(graphic);
  const length = Math.max(1, all);
  const moving = graphic.elements.filter((e) => e.in ?? e.out ?? e.hold ?? e.change ?? chosen.includes(e.id));
  return (
    <section {...region('time-line', 'Time line')} className="flex max-h-52 shrink-0 flex-col border-t border-line">
      <div className="flex flex-wrap items-center gap-2 px-2 py-1">
        <Button
          className="w-24"
          title={key ? `Try the moves (${key})` : 'Try the moves'}
          onClick={() => setGraphicsRoom({ playing: !playing, trial: trial ?? 0 })}
        >
          {playing ? <Pause size={15} /> : <Play size={15} />} {playing ? 'Pause' : 'Try'}
        </Button>
        <Button
          aria-label="End the trial"
          title="Back to the drawing"
          unusable={trial === null ? 'Nothing is tried.' : null}
          onClick={() => setGraphicsRoom({ trial: null, playing: false })}
        >
          <Square size={14} />
        </Button>
        <select aria-label="Speed of the trial" value={speed} onChange={(e) => setSpeed(Number(e.target.value))}>
          {[0.1, 0.25, 0.5, 1, 2].map((s) => (
            <option key={s} value={s}>
              {s}×
            </option>
          ))}
        </select>
        <input
          type="range"
          aria-label="Frame of the trial"
          className="min-w-40 flex-1"
          min={0}
          max={all}
          value={trial ?? 0}
          onChange={(e) => setGraphicsRoom({ trial: Number(e.target.value), playing: false })}
        />
        <output className="figures w-32 text-right text-sm">
          {trial === null ? `${all} frames` : `${trial < comes ? 'in' : trial < comes + hold ? 'hold' : 'out'} ${trial}/${all}`}
        </output>
      </div>
      <ul className="min-h-0 overflow-y-auto" aria-label="Moves of the elements">
        {moving.map((element) => (
          <li key={element.id} className={`flex items-center ${chosen.includes(element.id) ? 'bg-raised' : ''}`}>
            <button
              type="button"
              className="w-32 shrink-0 truncate px-2 text-left text-xs"
              onClick={() => setGraphicsRoom({ chosen: [element.id] })}
            >
              {element.name}
            </button>
            <div data-line="" className="relative h-6 flex-1 border-l border-line bg-deep">
              <span
                className="absolute top-0 bottom-0 border-x border-line"
                style={{ left: `${(comes / length) * 100}%`, width: `${(hold / length) * 100}%` }}
              />
              {element.in && <Bar graphic={graphic} element={element} phase="in" move={element.in} from={0} all={length} />}
              {element.hold && <Bar graphic={graphic} element={element} phase="hold" move={element.hold} from={comes} all={length} />}
              {!element.hold && element.change && (
                <Bar graphic={graphic} element={element} phase="change" move={element.change} from={comes} all={length} />
              )}
              {element.out && <Bar graphic={graphic} element={element} phase="out" move={element.out} from={comes + hold} all={length} />}
              {trial !== null && <span className="absolute top-0 bottom-0 w-0.5 bg-straw" style={{ left: `${(trial / length) * 100}%` }} />}
            </div>
          </li>
        ))}
        {moving.length === 0 && goes === 0 && (
          <li className="px-2 pb-1 text-xs text-muted">
            Nothing moves by itself yet: the lane’s own moves are used. Choose an element and give it a move.
          </li>
        )}
      </ul>
    </section>
  );
}
