/** Removes a thing from the show, and takes it out of every place that referred to it. */
import { current, isDraft } from 'immer';
import { forgetInGraphics, goesWithGraphics } from '../graphics/forget';
import { forgetInAudience } from '../audience/forget';
import { forgetInGuests } from '../guests/forget';
import { forgetInMixer } from '../picture/forget';
import { forgetInReplay } from '../replay/forget';
import { type EntityKind, kindsOf } from '../schema/kinds';
import { forgetInSound, goesWithSound } from '../sound/forget';
import { type Desk } from './air';
import { ENTITIES, identityOf, kindOfClass } from './entities';
import { type FoundRef, type Holder, walkRefs } from './refs';
import { Show } from './show';

/** One thing that goes. */
export interface Gone {
  kind: EntityKind;
  id: string;
}

/** What a domain does to air when something is gone from the show. */
const AIR = [forgetInMixer, forgetInReplay, forgetInSound, forgetInGraphics, forgetInGuests, forgetInAudience];

type Node = Record<string, unknown>;

/** The object in the draft that a holder stands for. */
function nodeAt(root: object, holders: readonly Holder[]): Node {
  return holders.reduce((node: Node, { field, index }) => {
    if (!field) return node;
    const value = node[field.name] as Node;
    return index === null ? value : ((value as unknown as Node[])[index] as Node);
  }, root as Node);
}

/** Items that leave their lists, by list: taken out together, so that their places stay true until then. */
type Leaving = Map<unknown, { node: Node; field: string; items: Set<number> }>;

/** What a reference to something gone does: it becomes null or leaves its list; what cannot be without it goes too, and is returned. */
function release(show: Show, found: FoundRef, leaving: Leaving): Gone[] {
  const { holders, field, ref, id } = found;
  if (ref.list) {
    const node = nodeAt(show, holders);
    node[field.name] = (node[field.name] as string[]).filter((other) => other !== id);
    return [];
  }
  if (field.nullable && !ref.whole) {
    nodeAt(show, holders)[field.name] = null;
    return [];
  }
  for (let i = holders.length - 1; i > 0; i -= 1) {
    const holder = holders[i] as Holder;
    const name = holder.field?.name as string;
    const node = nodeAt(show, holders.slice(0, i));
    if (holder.index !== null) {
      const list = node[name];
      const leave = leaving.get(list) ?? { node, field: name, items: new Set() };
      leaving.set(list, leave);
      leave.items.add(holder.index);
      const kind = kindOfClass(holder.of);
      return kind ? [{ kind, id: identityOf(kind, holder.value) }] : [];
    }
    if (holder.field?.nullable) {
      node[name] = null;
      return [];
    }
  }
  // Nothing around it can go: whoever removes what is needed like this gives another first.
  return [];
}

/** Takes everything that is gone out of all places; returns what goes with it. */
function releaseAll(show: Show, gone: readonly Gone[]): Gone[] {
  const isGone = (found: FoundRef) => gone.some((g) => g.id === found.id && kindsOf(found.to).includes(g.kind));
  const refs: FoundRef[] = [];
  const plain = isDraft(show) ? current(show) : show;
  walkRefs(Show, plain, (found) => isGone(found) && refs.push({ ...found, holders: [...found.holders] }), new Set(gone.map((g) => g.kind)));
  const leaving: Leaving = new Map();
  const more = refs.flatMap((found) => release(show, found, leaving));
  for (const { node, field, items } of leaving.values()) node[field] = (node[field] as unknown[]).filter((_, i) => !items.has(i));
  return more;
}

/**
 * Takes things out of a show, and all that cannot be without them; every other reference to them is taken away. Returns everything that has
 * gone.
 */
export function removeFrom(show: Show, first: readonly Gone[]): Gone[] {
  const done: Gone[] = [];
  let gone = [...first];
  while (gone.length > 0) {
    const going = gone.flatMap((g) => [g, ...goesWithSound(show, g), ...goesWithGraphics(show, g)]);
    for (const g of going) drop(show, g);
    done.push(...going);
    gone = releaseAll(show, going).filter((g) => !done.some((d) => d.kind === g.kind && d.id === g.id));
  }
  return done;
}

/** Removes a thing from show and air: see `removeFrom`. What is on air is the caller's to guard. */
export function remove(desk: Desk, kind: EntityKind, id: string): void {
  for (const g of removeFrom(desk.show, [{ kind, id }])) for (const forget of AIR) forget(desk, g.kind, g.id);
}

/** Takes the thing itself out of the list it stands in. */
function drop(show: Show, { kind, id }: Gone): void {
  const home = ENTITIES[kind].home?.(show, id);
  if (home) home.in[home.field] = (home.in[home.field] as Node[]).filter((item) => identityOf(kind, item) !== id);
}
