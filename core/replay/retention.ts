/** Which recorded material goes when the budget is used up: the oldest, and never what a clip or a deck uses. */
import { type Air } from '../desk/air';
import { type Show } from '../desk/show';
import { frameToMicros, secondsToFrames } from '../time/rate';
import { DECKS } from './air';
import { deckPlace } from './deck';
import { type Budget } from './document';
import { type Run, type Segment } from './timeline';

/** Seconds around a deck's playhead that are kept for it. */
const AROUND_DECK = 20;

/** Spans that must stay, in show microseconds: under clips, under play-outs, and around both playheads. */
export function protectedSpans(show: Show, air: Air, frame: number): Run[] {
  const spans: { in: number; out: number }[] = [...show.replay.clips];
  const around = secondsToFrames(AROUND_DECK, show.rate);
  for (const n of DECKS) {
    const deck = air.replay.decks[n];
    const place = deckPlace(deck, air.replay, frame, show.rate);
    if (deck.roll) spans.push(...deck.roll.items);
    if (!place.live) spans.push({ in: place.position - around, out: place.position + around });
  }
  const { lookBack, markIn } = air.replay;
  if (lookBack) spans.push({ in: lookBack.from - around, out: lookBack.from + around });
  if (markIn !== null) spans.push({ in: markIn, out: markIn + around });
  return mergeSpans(
    spans.map((s) => ({
      from: frameToMicros(Math.max(0, Math.floor(s.in)), show.rate),
      to: frameToMicros(Math.max(0, Math.ceil(s.out)), show.rate),
    })),
  );
}

/** Spans in order, those that touch put together: thousands of clips lie over each other. */
export function mergeSpans(spans: readonly Run[]): Run[] {
  const merged: Run[] = [];
  for (const { from, to } of [...spans].sort((a, b) => a.from - b.from)) {
    const last = merged.at(-1);
    if (last && from <= last.to) last.to = Math.max(last.to, to);
    else merged.push({ from, to });
  }
  return merged;
}

function isProtected(segment: Pick<Segment, 'from' | 'to'>, spans: readonly Run[]): boolean {
  let low = 0;
  let high = spans.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((spans[middle] as Run).to <= segment.from) low = middle + 1;
    else high = middle;
  }
  const span = spans[low];
  return span !== undefined && span.from < segment.to;
}

const bytesOf = (segments: readonly Segment[]): number => segments.reduce((sum, s) => sum + s.bytes, 0);

/**
 * Closed segments to remove, oldest first, so that the rest fits the budget at show time `now` (microseconds). `spans` are
 * those of `protectedSpans`.
 */
export function toDrop(segments: readonly Segment[], spans: readonly Run[], budget: Budget, now: number): Segment[] {
  const oldest = [...segments].sort((a, b) => a.to - b.to);
  if (budget.kind === 'hours') {
    const limit = now - budget.value * 3600e6;
    return oldest.filter((s) => s.to < limit && !isProtected(s, spans));
  }
  let over = bytesOf(segments) - budget.value * 1e9;
  const dropped: Segment[] = [];
  for (const segment of oldest) {
    if (over <= 0) break;
    if (isProtected(segment, spans)) continue;
    dropped.push(segment);
    over -= segment.bytes;
  }
  return dropped;
}

export interface BudgetState {
  usedBytes: number;
  /** Bytes that the budget grants; for hours, at the present bitrate. */
  limitBytes: number;
  /** Seconds until the oldest must go, at the present bitrate; Infinity when nothing is recorded. */
  secondsLeft: number;
  /** More is protected than the budget grants: nothing can go. */
  overfull: boolean;
}

/** How much of the budget is used. `bytesPerSecond` is measured over all tracks. */
export function budgetState(segments: readonly Segment[], budget: Budget, bytesPerSecond: number): BudgetState {
  const usedBytes = bytesOf(segments);
  const limitBytes = budget.kind === 'gigabytes' ? budget.value * 1e9 : budget.value * 3600 * bytesPerSecond;
  const secondsLeft = bytesPerSecond > 0 ? Math.max(0, limitBytes - usedBytes) / bytesPerSecond : Infinity;
  return { usedBytes, limitBytes, secondsLeft, overfull: usedBytes > limitBytes * 1.02 + 40e6 && budget.kind === 'gigabytes' };
}
