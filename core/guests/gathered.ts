/**
 * The gathered views: everyone who is admitted, who speaks, and the screen that is shared. Who is in them follows from air; when that changes, the
 * pictures glide from where they were. Pure.
 */
import { type Rect } from '../show/geometry';
import { type Raster } from '../show/raster';
import { type Air } from '../desk/air';
import { type Show } from '../desk/show';
import { guestNow, type GatheredAir, type Turn } from './air';
import { type Gathering, type Guest } from './document';

/** Share of the picture's width between two of them. */
const GAP = 0.012;

/** Guests who count in the gathered views now, in the order of the list. */
export const gathered = (show: Show, air: Air): Guest[] =>
  show.guests.list.filter((g) => g.counts && guestNow(air, g.id).state === 'admitted');

/** The counted ones in the order of a view: of the list, or of the seats, those without one last. */
export function inOrder(show: Show, guests: readonly Guest[], order: Gathering['order']): Guest[] {
  if (order === 'number') return [...guests];
  const seat = ({ sourceId }: Guest) => {
    const at = show.seats.findIndex((s) => s.occupantId === sourceId);
    return at < 0 ? show.seats.length : at;
  };
  return [...guests].sort((a, b) => seat(a) - seat(b) || guests.indexOf(a) - guests.indexOf(b));
}

/**
 * Places for `count` pictures of the raster's proportions, as large as they can all be, in rows; a last row that is not full stands in the middle.
 * Pixels of the raster.
 */
export function arrangement(count: number, { width, height }: Raster): Rect[] {
  if (count <= 0) return [];
  const gap = width * GAP;
  let columns = 1;
  let best = 0;
  for (let c = 1; c <= count; c += 1) {
    const rows = Math.ceil(count / c);
    const size = Math.min((width - gap * (c + 1)) / c, (((height - gap * (rows + 1)) / rows) * width) / height);
    if (size > best + 1e-6) [best, columns] = [size, c];
  }
  // One alone has the whole picture.
  if (count === 1) return [{ x: 0, y: 0, width, height }];
  const rows = Math.ceil(count / columns);
  const [w, h] = [best, (best * height) / width];
  const top = (height - rows * h - (rows - 1) * gap) / 2;
  return Array.from({ length: count }, (_, i) => {
    const row = Math.floor(i / columns);
    const inRow = row === rows - 1 ? count - row * columns : columns;
    const left = (width - inRow * w - (inRow - 1) * gap) / 2;
    return { x: left + (i % columns) * (w + gap), y: top + row * (h + gap), width: w, height: h };
  });
}

/** The guest who has shared a screen last, of those who count. */
function sharer(show: Show, air: Air): string | null {
  let [found, since] = [null as string | null, -Infinity];
  for (const { id, screenId } of gathered(show, air)) {
    const { shares, sharesSince } = guestNow(air, id);
    if (shares && screenId !== null && sharesSince >= since) [found, since] = [id, sharesSince];
  }
  return found;
}

const turned = <T>(turn: Turn<T>, now: T, frame: number): Turn<T> => ({ now, before: turn.now, since: frame });
const sameList = (a: readonly string[], b: readonly string[]): boolean => a.length === b.length && a.every((id, i) => id === b[i]);

/** Who is in the gathered views from a frame on; null when that is as it was. */
export function gatheredNow(show: Show, air: Air, frame: number): GatheredAir | null {
  const { crowd, speaker, shared } = air.guests.gathered;
  const guests = gathered(show, air);
  const ids = guests.map((g) => g.id);
  const speaks = speaker.now !== null && ids.includes(speaker.now) ? speaker.now : (ids[0] ?? null);
  const shares = sharer(show, air);
  const next = {
    crowd: sameList(ids, crowd.now) ? crowd : turned(crowd, ids, frame),
    speaker: speaks === speaker.now ? speaker : turned(speaker, speaks, frame),
    shared: shares === shared.now ? shared : turned(shared, shares, frame),
  };
  return next.crowd === crowd && next.speaker === speaker && next.shared === shared ? null : next;
}

/** How far the change of a view has got, 0 to 1; `frames` is its length. */
export const turnShare = ({ since }: Turn<unknown>, frame: number, frames: number): number =>
  frames <= 0 ? 1 : Math.min(1, Math.max(0, (frame - since) / frames));
