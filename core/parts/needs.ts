/** What goes along with parts that are chosen: all that they name, and what that names. */
import { type Show } from '../desk/show';
import { kindsOf } from '../schema/kinds';
import { classOf, ownersIn, type Part, partKey, PARTS, valueOf } from './kinds';
import { type Named, walkNamed } from '../desk/named';

/** What goes along, and the name of what needs it. */
export interface Needed extends Part {
  by: string;
}

/** The part that a reference leads to, itself or what it stands in; undefined where it leads to none. */
export function ownerOf(owners: ReadonlyMap<string, Part>, { id, to }: Pick<Named, 'id' | 'to'>): Part | undefined {
  for (const kind of kindsOf(to)) {
    const owner = owners.get(partKey({ kind, id }));
    if (owner) return owner;
  }
  return undefined;
}

/**
 * Everything that the chosen parts need, near things first; `without` is left out, with what only that would need. Keys are those of
 * `partKey`.
 */
export function neededBy(show: Show, chosen: ReadonlySet<string>, without: ReadonlySet<string> = new Set()): Needed[] {
  const owners = ownersIn(show);
  const needed: Needed[] = [];
  const seen = new Set(chosen);
  const queue: Part[] = [...new Set(owners.values())].filter((part) => chosen.has(partKey(part)));
  for (let part = queue.shift(); part; part = queue.shift()) {
    const { name } = part;
    const value = valueOf(show, part);
    if (!value) continue;
    walkNamed(classOf(part.kind), value, (found) => {
      const owner = ownerOf(owners, found);
      if (!owner || PARTS[owner.kind].loose || seen.has(partKey(owner))) return;
      seen.add(partKey(owner));
      needed.push({ ...owner, by: name });
      if (!without.has(partKey(owner))) queue.push(owner);
    });
  }
  return needed;
}
