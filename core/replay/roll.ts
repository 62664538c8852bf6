/** Play-out arithmetic: how long items last, where a play-out stands, what is left. Pure; lengths are whole show frames. */
import { type Clip } from './document';
import { type Roll, type RollItem } from './air';

/** Show frames that a span of timeline frames takes at a speed in per cent; at least one. */
export const runningFrames = (span: number, speed: number): number => Math.max(1, Math.ceil((span * 100) / speed - 1e-9));

/** Running time of one item. */
export const itemFrames = (item: Pick<RollItem, 'in' | 'out' | 'speed'>): number => runningFrames(item.out - item.in, item.speed);

/** A clip as items: its angles one after another. A clip without angles shows `fallback`; with neither it is left out. */
export function itemsOf(clip: Clip, fallback: string | null): RollItem[] {
  const angles = clip.angleIds.length > 0 ? clip.angleIds : fallback === null ? [] : [fallback];
  return angles.map((angleId) => ({ clipId: clip.id, name: clip.name, angleId, in: clip.in, out: clip.out, speed: clip.speed }));
}

/** Frames by which two neighbouring items overlap: the wanted dissolve, but at most half of the shorter. */
export function overlap(before: RollItem, after: RollItem, joinFrames: number): number {
  return Math.min(joinFrames, Math.floor(itemFrames(before) / 2), Math.floor(itemFrames(after) / 2));
}

/** Total running time of items with their joins, show frames. */
export function totalFrames(items: readonly RollItem[], joinFrames: number): number {
  return items.reduce((sum, item, i) => {
    const next = items[i + 1];
    return sum + itemFrames(item) - (next ? overlap(item, next, joinFrames) : 0);
  }, 0);
}

/** Total running time of clips at their speeds and angles, show frames. */
export function clipsFrames(clips: readonly Clip[], joinFrames: number): number {
  if (joinFrames > 0)
    return totalFrames(
      clips.flatMap((clip) => itemsOf(clip, '')),
      joinFrames,
    );
  // With cuts the order does not matter, and thousands are summed at once.
  return clips.reduce((sum, clip) => sum + Math.max(1, clip.angleIds.length) * itemFrames(clip), 0);
}

export interface RollPlace {
  index: number;
  /** Timeline frame, may be a fraction. */
  position: number;
  /** The item that comes in by dissolve, and how far it has come, 0 to 1. */
  incoming: { index: number; position: number; share: number } | null;
  /** Show frames left of this item, and of everything; without end while it loops. */
  itemLeft: number;
  left: number;
  ended: boolean;
  /** Past its end, and still moving. */
  runningOn: boolean;
}

/** Timeline frame of an item after `elapsed` show frames of it. */
const positionIn = (item: RollItem, elapsed: number): number => item.in + (elapsed * item.speed) / 100;

/** The item after `index`: the first again when it loops. */
const nextIndex = (roll: Roll, index: number): number | null =>
  index + 1 < roll.items.length ? index + 1 : roll.after === 'loop' ? 0 : null;

function joinAfter(roll: Roll, index: number): number {
  const [item, to] = [roll.items[index], nextIndex(roll, index)];
  const next = to === null ? undefined : roll.items[to];
  return item && next ? overlap(item, next, roll.joinFrames) : 0;
}

/** Frames of one round of a loop. */
const roundFrames = (roll: Roll): number => roll.items.reduce((sum, item, i) => sum + itemFrames(item) - joinAfter(roll, i), 0);

/** Elapsed show frames of an item that stands at timeline frame `position`; a millionth of a frame is rounding, not time. */
function elapsedAt(item: RollItem, position: number): number {
  const elapsed = Math.round((((position - item.in) * 100) / item.speed) * 1e6) / 1e6;
  return Math.min(itemFrames(item), Math.max(0, elapsed));
}

/** Where a play-out stands `frames` show frames after it stood at `position` of item `roll.index`. Any `frames` ≥ 0. */
export function rollPlace(roll: Roll, position: number, frames: number): RollPlace {
  let index = roll.index;
  let item = roll.items[index] as RollItem;
  let elapsed = elapsedAt(item, position) + frames;
  if (roll.after === 'loop') {
    const round = Math.max(1, roundFrames(roll));
    const over = elapsed - itemFrames(item);
    if (over >= round) elapsed -= Math.floor(over / round) * round;
  }
  for (;;) {
    const next = nextIndex(roll, index);
    if (elapsed < itemFrames(item) || next === null) break;
    elapsed = elapsed - itemFrames(item) + joinAfter(roll, index);
    index = next;
    item = roll.items[index] as RollItem;
  }
  const length = itemFrames(item);
  const ended = elapsed >= length;
  const itemLeft = Math.max(0, length - elapsed);
  const past = Math.max(0, Math.min(roll.runOn, elapsed - length));
  const at = ended && past === 0 ? item.out - 1 : positionIn(item, Math.min(elapsed, length + past));
  return {
    index,
    position: at,
    incoming: incomingAt(roll, index, itemLeft),
    itemLeft,
    left: leftFrom(roll, index, itemLeft),
    ended,
    runningOn: past > 0 && past < roll.runOn,
  };
}

function incomingAt(roll: Roll, index: number, itemLeft: number): RollPlace['incoming'] {
  const join = joinAfter(roll, index);
  const next = nextIndex(roll, index);
  if (next === null || join === 0 || itemLeft > join) return null;
  const elapsed = join - itemLeft;
  return { index: next, position: positionIn(roll.items[next] as RollItem, elapsed), share: elapsed / join };
}

/** Show frames from here to the end of everything. */
function leftFrom(roll: Roll, index: number, itemLeft: number): number {
  if (roll.after === 'loop') return Infinity;
  let left = itemLeft;
  for (let i = index; i + 1 < roll.items.length; i += 1) left += itemFrames(roll.items[i + 1] as RollItem) - joinAfter(roll, i);
  return left;
}
