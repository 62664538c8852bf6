/** What the ground costs: patches of a large show, and many commands as one step. */
import { type Command } from '#core/commands/command';
import { type Desk } from '#core/desk/air';
import { EMPTY_HISTORY } from '#core/desk/history';
import { perform, type Session } from '#core/desk/session';
import { slimPatches } from '#core/panels/slim';
import { must, replayDesk } from '../support/sample-show';

const CLIPS = 10_000;
const ROUNDS = 40;

const median = (list: number[]) => [...list].sort((a, b) => a - b)[list.length >> 1] ?? NaN;

/** A show of ten thousand clips. */
function large(): Desk {
  const desk = must(replayDesk(), 'clip.grab', { deck: 1, seconds: 4 }, 900);
  const [clip] = desk.show.replay.clips;
  const clips = Array.from({ length: CLIPS }, (_, i) => ({ ...(clip as Desk['show']['replay']['clips'][0]), id: `c${i}`, number: i + 1 }));
  return { ...desk, show: { ...desk.show, replay: { ...desk.show.replay, clips } } };
}

export interface GroundFigures {
  name: string;
  /** Milliseconds of the step itself, median. */
  ms: number;
  /** Milliseconds that its patches take to be made small and written out, median. */
  patchMs: number;
  /** Bytes on the wire. */
  bytes: number;
}

function measure(name: string, desk: Desk, step: (i: number) => Command[], gesture?: string): GroundFigures {
  let session: Session = { desk, history: EMPTY_HISTORY };
  let ids = 0;
  const [times, patchTimes]: [number[], number[]] = [[], []];
  let bytes = 0;
  for (let i = 0; i < ROUNDS; i += 1) {
    const began = performance.now();
    const done = perform(session, step(i), { frame: 1000 + i, newId: () => `n${(ids += 1)}` }, { at: i * 2000, gesture });
    const performed = performance.now();
    if (!done.ok) throw new Error(done.error.message);
    const text = JSON.stringify(slimPatches(session.desk, done.session.desk, done.patches));
    patchTimes.push(performance.now() - performed);
    times.push(performed - began);
    bytes = Math.max(bytes, text.length);
    session = done.session;
  }
  return { name, ms: median(times), patchMs: median(patchTimes), bytes };
}

/** Sixteen boxes of one layout. */
function boxes(): { desk: Desk; layout: string; ids: string[] } {
  let desk = must(replayDesk(), 'layout.add', { name: 'Sixteen' });
  const layout = desk.show.layouts[0]?.id ?? '';
  for (let i = 0; i < 16; i += 1)
    desk = must(desk, 'box.add', { layout, name: `Box ${i}`, rect: { x: (i % 4) * 12, y: Math.floor(i / 4) * 8, width: 10, height: 6 } });
  return { desk, layout, ids: desk.show.layouts[0]?.boxes.map((b) => b.id) ?? [] };
}

export function benchGround(): GroundFigures[] {
  const many = large();
  const { desk, layout, ids } = boxes();
  const rects = new Map(desk.show.layouts[0]?.boxes.map((b) => [b.id, b.rect]));
  return [
    measure('a Grab among 10,000 clips', many, () => [{ type: 'clip.grab', args: { deck: 1, seconds: 4 } }]),
    measure('a clip removed from the middle of them', many, (i) => [{ type: 'clip.remove', args: { clips: [`c${5000 + i}`] } }]),
    measure('a clip moved to the end of them', many, (i) => [{ type: 'clip.move', args: { clips: [`c${i}`], before: null } }]),
    measure('a cut, in the same show', many, (i) => [{ type: 'picture.cut', args: { picture: i % 2 ? 'a' : 'b' } }]),
    measure(
      'sixteen boxes dragged, a mouse move',
      desk,
      (i) =>
        ids.map((box) => ({
          type: 'box.place',
          args: { layout, box, rect: { ...rects.get(box), x: (rects.get(box)?.x ?? 0) + (i % 7) } },
        })),
      'drag',
    ),
  ];
}
