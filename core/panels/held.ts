/**
 * Who has what in hand: a fader, a box, a deck. It is told by what people do: an edit that goes on under the hand holds what it names, for a
 * moment longer than it lasts. Pure.
 */
import { type Command } from '../commands/command';
import { walkRefs } from '../desk/refs';
import { findCommand } from '../desk/registry';

/** Something in somebody's hand, by its identity; of a deck, see `deckKey`. */
export interface Held {
  id: string;
  /** Of the pass, or `host`. */
  by: string;
  name: string;
}

/** How long a thing stays in hand after the last edit, milliseconds: long enough to be read, and to breathe between two pulls. */
export const HOLD_MS = 2500;
const MOST_HELD = 100;

export const deckKey = (deck: number): string => `deck ${deck}`;

/** What a command has in hand: what edits that go on name, and the deck that is worked. */
export function handled({ type, args = {} }: Command): string[] {
  const spec = findCommand(type);
  if (!spec) return [];
  if (/^(deck|roll)\./.test(type) && typeof args.deck === 'number') return [deckKey(args.deck)];
  if (!spec.mergeKey) return [];
  const ids: string[] = [];
  walkRefs(spec.args, args, ({ id }) => ids.push(id));
  return ids;
}

export class Holds {
  private readonly things = new Map<string, Held & { until: number }>();
  private told: readonly Held[] = [];

  /** Commands that were done by somebody at a moment, milliseconds of the caller's clock. */
  touch(commands: readonly Command[], by: { id: string; name: string }, now: number): void {
    for (const id of commands.flatMap(handled)) {
      if (this.things.size >= MOST_HELD && !this.things.has(id)) continue;
      this.things.set(id, { id, by: by.id, name: by.name, until: now + HOLD_MS });
    }
  }

  /** What is in hand now; null when that is as it was at the last call. */
  changed(now: number): readonly Held[] | null {
    for (const [id, { until }] of this.things) if (until <= now) this.things.delete(id);
    const list = [...this.things.values()].map(({ id, by, name }) => ({ id, by, name }));
    const same = list.length === this.told.length && list.every((h, i) => h.id === this.told[i]?.id && h.by === this.told[i].by);
    if (same) return null;
    this.told = list;
    return list;
  }
}

/** Who else has a thing in hand; null for nobody, or oneself. */
export const heldByOther = (held: readonly Held[], id: string, self: string): string | null =>
  held.find((h) => h.id === id && h.by !== self)?.name ?? null;
