/** Undo and redo of the document. Air is never undone: the audience has seen it. */
import { applyPatches, type Patch } from 'immer';
import { type Desk } from './air';
import { findPicture } from './pictures';
import { guardLoopsBetween } from '../sound/edit';
import { CommandError } from '../commands/command';

/** Somebody with a pass. */
export interface Person {
  id: string;
  name: string;
}

interface Step {
  title: string;
  /** Whose edit it is; null for who sits at the window that runs the show, and for the remote. */
  by: Person | null;
  forward: Patch[];
  inverse: Patch[];
  mergeKey: string | null;
  /** Milliseconds of the caller's clock. */
  at: number;
}

export interface History {
  past: Step[];
  future: Step[];
}

export const EMPTY_HISTORY: History = { past: [], future: [] };

const LIMIT = 500;
/** Edits of the same key make one step while no more than this lies between two of them, milliseconds. */
export const MERGE_MS = 1000;

const ofShow = (patches: Patch[]) => patches.filter((p) => p.path[0] === 'show');

/** `history` with a step added, if the patches touch the document at all. */
export function remember(
  history: History,
  title: string,
  patches: Patch[],
  inverse: Patch[],
  mergeKey: string | null,
  at: number,
  mergeMs = MERGE_MS,
  by: Person | null = null,
): History {
  const forward = ofShow(patches);
  if (forward.length === 0) return history;
  const back = ofShow(inverse);
  const last = history.past.at(-1);
  if (last && mergeKey !== null && last.mergeKey === mergeKey && last.by?.id === by?.id && at - last.at < mergeMs) {
    const merged = { ...last, forward: [...last.forward, ...forward], inverse: [...back, ...last.inverse], at };
    return { past: [...history.past.slice(0, -1), merged], future: [] };
  }
  const step = { title, by, forward, inverse: back, mergeKey, at };
  return { past: [...history.past, step].slice(-LIMIT), future: [] };
}

/** @throws CommandError when something on air would lose its source, or, unless `anyway`, when a loop would be closed. */
function guard(before: Desk, after: Desk, anyway: boolean): void {
  const used = [after.air.onAirId, after.air.transition?.fromId ?? null];
  for (const lane of Object.values(after.air.lanes)) if (lane.picture?.kind === 'picture') used.push(lane.picture.id);
  for (const id of used) {
    const picture = findPicture(before.show, id);
    if (picture && !findPicture(after.show, id)) {
      throw new CommandError('on-air', `That would remove ${picture.name}, which is on air. Take something else first.`);
    }
  }
  if (!anyway) guardLoopsBetween(before.show, after.show);
}

/** What a step through the history leads to. */
interface Walked {
  history: History;
  desk: Desk;
  patches: Patch[];
  title: string;
}

/** @throws CommandError when the step is another person's, unless `anyway` */
function checkOwn({ by: whose, title }: Step, by: Person | null, anyway: boolean): void {
  if (anyway || whose?.id === by?.id) return;
  const who = whose ? whose.name : 'whoever runs the show';
  throw new CommandError('anothers', `The last step, “${title}”, is by ${who}. Take it back all the same?`, 'anyway');
}

function walk(desk: Desk, { title, ...step }: Step, way: 'forward' | 'inverse', history: History, anyway: boolean): Walked {
  const patches = step[way];
  const after = repairAir(applyPatches(desk, patches) as Desk);
  guard(desk, after, anyway);
  return { history, desk: after, patches, title };
}

/**
 * One step back. @throws CommandError when there is none, when it would take something off air, or, unless `anyway`, when it would close a
 * loop or is another person's
 */
export function undo({ past, future }: History, desk: Desk, anyway = false, by: Person | null = null): Walked {
  const step = past.at(-1);
  if (!step) throw new CommandError('nothing-to-undo', 'There is nothing to undo.');
  checkOwn(step, by, anyway);
  return walk(desk, step, 'inverse', { past: past.slice(0, -1), future: [...future, step] }, anyway);
}

/** One step forward again. @throws CommandError as `undo` does. */
export function redo({ past, future }: History, desk: Desk, anyway = false, by: Person | null = null): Walked {
  const step = future.at(-1);
  if (!step) throw new CommandError('nothing-to-redo', 'There is nothing to redo.');
  checkOwn(step, by, anyway);
  return walk(desk, step, 'forward', { past: [...past, step], future: future.slice(0, -1) }, anyway);
}

/** Next must never point at a source that is gone. */
function repairAir(desk: Desk): Desk {
  if (desk.air.nextId === null || findPicture(desk.show, desk.air.nextId)) return desk;
  return { ...desk, air: { ...desk.air, nextId: null } };
}
