/**
 * A client of a show that does not run yet: what is known of it, as it was left. With it a room is painted while the show opens. Nothing moves,
 * nothing is heard, and commands are refused.
 */
import { createStore } from 'zustand/vanilla';
import { type Desk } from '#core/desk/air';
import { ActLog } from '#core/log/act-log';
import { workingFormat } from '#core/picture/capability';
import { framesPerSecond } from '#core/time/rate';
import { noStats } from '../picture/messages';
import { firstState } from './first-state';
import { quietAudience, quietExports, quietGuests, quietSound, quietWays, refuseAs } from './quiet-parts';
import { type CrewState, type DispatchAllResult, type ShowClient } from './show-client';
import { type FrameState, type ShowState } from './state';

const OPENING = 'The show is opening: nothing can be done with it yet.';
const refuse = refuseAs(OPENING);
const nothing = () => undefined;
const refused: Extract<DispatchAllResult, { ok: false }> = { ok: false, error: { code: 'failed', message: OPENING } };

const NOBODY: CrewState = { members: [], you: null, to: null, microphone: 'off', message: '', hearing: false, speaking: [] };

/** The show of `desk`, standing still at a frame. */
export function stillClient(desk: Desk, frame: number): ShowClient {
  const { id, raster, rate } = desk.show;
  const store = createStore<ShowState>(() => ({
    ...firstState(desk, workingFormat(raster, framesPerSecond(rate), 0, '')),
    // Whether it is asleep is not known yet, so nobody is asked to wake it.
    soundAwake: true,
  }));
  const frames = createStore<FrameState>(() => ({ frame, mixer: noStats() }));
  return {
    showId: id,
    panel: null,
    passes: null,
    store,
    frames,
    state: { ...store.getState(), ...frames.getState() },
    sound: quietSound(),
    crew: { store: createStore(() => NOBODY), talk: nothing, end: nothing, setHearing: nothing, setLevel: nothing },
    guests: quietGuests(),
    ways: quietWays(OPENING),
    audience: quietAudience(),
    replay: { thumbnail: () => Promise.resolve(null) },
    exports: quietExports(OPENING),
    files: {
      add: refuse,
      keep: refuse,
      findWindows: refuse,
      findAreas: refuse,
      sheets: { follow: refuse, again: refuse },
      parts: { save: refuse, read: refuse, keep: refuse },
      asRun: () => Promise.resolve([]),
      recordings: { list: () => Promise.resolve([]), file: refuse, rename: refuse, remove: refuse },
    },
    log: new ActLog(nothing),
    devices: { midiPorts: () => Promise.resolve({ outputs: [], inputs: [] }) },
    dispatch: () => refused,
    dispatchAll: () => refused,
    onTick: () => nothing,
    attachMonitor: () => ({ resize: nothing, detach: nothing }),
    pressSource: nothing,
    restartSource: nothing,
    dismiss: nothing,
  };
}
