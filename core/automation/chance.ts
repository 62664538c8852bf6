/** What a macro leaves to chance: values that end up otherwise when it begins from another state. */
import { type Desk } from '../desk/air';
import { clockFrames } from '../graphics/clocks';
import { surfaceNow } from '../screens/air';
import { coverOf } from '../screens/outputs';
import { laneIsUp } from '../picture/air';
import { type Macro } from './document';
import { dryRun } from './dry-run';
import { standOf } from './stand';

/** The desk in another state: other picture, lanes the other way round, clocks elsewhere, faders down. */
function disturbed({ show, air }: Desk, frame: number): Desk {
  const other = show.sources.find((s) => s.id !== air.onAirId && !s.feedsOnly)?.id ?? air.onAirId;
  const next = show.sources.findLast((s) => s.id !== air.nextId)?.id ?? null;
  const lanes = Object.fromEntries(
    Object.entries(air.lanes).map(([id, lane]) => {
      const up = laneIsUp(lane, frame);
      const picture = up ? null : other === null ? null : { kind: 'picture' as const, id: other };
      const level = picture ? 1 : 0;
      return [id, { ...lane, picture, leaving: null, leaveAt: null, fade: { from: level, to: level as 0 | 1, start: 0, frames: 0 } }];
    }),
  );
  const clocks = Object.fromEntries(
    show.graphics.clocks.map(({ id }) => {
      const state = air.graphics.clocks[id];
      const runs = (state?.start ?? null) !== null;
      return [id, { value: clockFrames(state, frame) + 137, start: runs ? null : frame }];
    }),
  );
  return {
    show: {
      ...show,
      lanes: show.lanes.map((l) => ({ ...l, content: other === null ? l.content : { kind: 'picture' as const, id: other } })),
      sources: show.sources.map((s) => ({ ...s, sound: { ...s.sound, faderDb: s.sound.faderDb === -20 ? -10 : -20 } })),
      seats: show.seats.map((s) => ({ ...s, occupantId: null })),
      transition: { ...show.transition, frames: show.transition.frames + 7 },
      screens: {
        ...show.screens,
        surfaces: show.screens.surfaces.map((s) => ({ ...s, look: { background: null, layers: [] } })),
        outputs: show.screens.outputs.map((o) => ({ ...o, shows: { kind: o.shows.kind === 'black' ? 'clean' : 'black' } })),
      },
    },
    air: {
      ...air,
      onAirId: other,
      nextId: next,
      transition: null,
      black: { from: 1, to: air.black.to === 1 ? 0 : 1, start: 0, frames: 0 },
      lanes,
      graphics: { ...air.graphics, clocks },
      // What is covered is open, and the other way round.
      screens: {
        surfaces: Object.fromEntries(
          show.screens.surfaces.map(({ id }) => {
            const { over, look } = surfaceNow(air.screens, id, frame);
            return [id, { look: { ...look, background: null, layers: [] }, change: null, over: over ? null : { kind: 'black' as const } }];
          }),
        ),
        over: Object.fromEntries(
          show.screens.outputs.flatMap((o) => (coverOf(air.screens, o.id) ? [] : [[o.id, { kind: 'black' as const }]])),
        ),
      },
    },
  };
}

/** Names of values that end up otherwise when the macro begins from another state: it leaves them to chance. */
export function leftToChance(desk: Desk, macro: Macro, frame: number): string[] {
  const [one, other] = [dryRun(desk, macro, frame), dryRun(disturbed(desk, frame), macro, frame)];
  const at = (run: typeof one) => standOf(run.desk, frame + Math.max(one.frames, other.frames));
  const [a, b] = [at(one), at(other)];
  return [...new Set([...a.keys(), ...b.keys()])].filter((name) => a.get(name) !== b.get(name));
}
