/** Goes through every reference in a show: one walker for uses, removal, validation, import and the finder. */
import { type Constructor, type FieldInfo, fieldMap, type RefInfo } from '../schema/fields';
import { type EntityKind, kindsOf, type RefTarget } from '../schema/kinds';

/** An object on the way to a reference, the outermost first. */
export interface Holder {
  of: Constructor;
  value: Record<string, unknown>;
  /** The field of the holder before that holds this one; null for the outermost. */
  field: FieldInfo | null;
  /** Its place in a list; null outside of lists. */
  index: number | null;
}

/** A reference as the walker finds it. `holders` belongs to the walker: copy what is to be kept. */
export interface FoundRef {
  id: string;
  to: RefTarget;
  field: FieldInfo;
  ref: RefInfo;
  /** Place in a list of references; null for a single one. */
  index: number | null;
  holders: readonly Holder[];
}

interface Walk {
  visit: (found: FoundRef) => void;
  /** Only references that may point at one of these; null for all. */
  kinds: ReadonlySet<EntityKind> | null;
  /** False leaves an object out, with all that is in it. */
  enter: (holder: Holder) => boolean;
  holders: Holder[];
}

const reached = new Map<Constructor, ReadonlySet<EntityKind>>();

/** Kinds that references anywhere in objects of this class may point at. */
function reach(of: Constructor): ReadonlySet<EntityKind> {
  const known = reached.get(of);
  if (known) return known;
  const kinds = new Set<EntityKind>();
  // Before its fields are looked at: a class may hold itself.
  reached.set(of, kinds);
  for (const field of fieldMap(of).values()) {
    for (const kind of field.ref?.to.flatMap(kindsOf) ?? []) kinds.add(kind);
    for (const inner of field.variant?.classes ?? (field.nested ? [field.nested.of()] : []))
      for (const kind of reach(inner)) kinds.add(kind);
  }
  return kinds;
}

function matters(of: Constructor, wanted: ReadonlySet<EntityKind> | null): boolean {
  if (!wanted) return true;
  const kinds = reach(of);
  for (const kind of wanted) if (kinds.has(kind)) return true;
  return false;
}

function report(walk: Walk, field: FieldInfo, ref: RefInfo, raw: unknown, holder: Holder): void {
  const to = ref.by === undefined ? ref.to[0] : ref.to.find((t) => t === holder.value[ref.by as string]);
  if (to === undefined || (walk.kinds && !kindsOf(to).some((kind) => walk.kinds?.has(kind)))) return;
  const one = (id: unknown, index: number | null) => {
    if (typeof id === 'string' && !ref.or.includes(id)) walk.visit({ id, to, field, ref, index, holders: walk.holders });
  };
  if (ref.list) (raw as unknown[]).forEach(one);
  else one(raw, null);
}

function into(walk: Walk, of: Constructor, raw: unknown, field: FieldInfo | null, index: number | null): void {
  if (typeof raw !== 'object' || raw === null) return;
  const holder: Holder = { of, value: raw as Record<string, unknown>, field, index };
  if (!walk.enter(holder)) return;
  walk.holders.push(holder);
  for (const info of fieldMap(of).values()) {
    const value = holder.value[info.name];
    if (value === null || value === undefined) continue;
    if (info.ref) report(walk, info, info.ref, value, holder);
    else if (info.variant) {
      const chosen = info.variant(value as Record<string, unknown>);
      if (chosen && matters(chosen, walk.kinds)) into(walk, chosen, value, info, null);
    } else if (info.nested) {
      const inner = info.nested.of();
      if (!matters(inner, walk.kinds)) continue;
      if (info.nested.list) (value as unknown[]).forEach((item, i) => into(walk, inner, item, info, i));
      else into(walk, inner, value, info, null);
    }
  }
  walk.holders.pop();
}

/**
 * Calls `visit` for every reference in `root`, an object of the described class `of` whose fields have been checked.
 * With `kinds`, only for references that may point at one of them: parts that hold none are not gone through. `enter` may leave objects out.
 */
export function walkRefs(
  of: Constructor,
  root: object,
  visit: (found: FoundRef) => void,
  kinds: ReadonlySet<EntityKind> | null = null,
  enter: (holder: Holder) => boolean = () => true,
): void {
  into({ visit, kinds, enter, holders: [] }, of, root, null, null);
}

/** True when the reference points at this thing. */
export const pointsAt = (found: FoundRef, kind: EntityKind, id: string): boolean => found.id === id && kindsOf(found.to).includes(kind);

/** Where a reference stands, for messages: `lanes[0].content.id`. */
export function pathOf({ holders, field, index }: FoundRef): string {
  const steps = holders.flatMap((h) => (h.field ? [h.index === null ? h.field.name : `${h.field.name}[${h.index}]`] : []));
  return [...steps, index === null ? field.name : `${field.name}[${index}]`].join('.');
}
