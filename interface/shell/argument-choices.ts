/** What can be chosen for an argument of a command. */
import { entitiesOf } from '#core/desk/entities';
import { findPicture } from '#core/desk/pictures';
import { type Show } from '#core/desk/show';
import { type FieldInfo, fieldsOf } from '#core/schema/fields';
import { kindsOf, type RefTarget } from '#core/schema/kinds';

export interface Choice {
  value: unknown;
  label: string;
  /** Picture that is shown beside it. */
  picture: string | null;
}

/** Part of an object that names its kind beside what it points at, such as what a lane holds ready. */
function pointer({ nested }: FieldInfo): { by: string; name: string; to: readonly RefTarget[] } | null {
  if (!nested || nested.list) return null;
  const fields = fieldsOf(nested.of());
  const ref = fields.find((f) => f.ref?.by !== undefined);
  const rest = fields.filter((f) => f !== ref && f.name !== ref?.ref?.by && !f.optional);
  return ref?.ref?.by !== undefined && rest.length === 0 ? { by: ref.ref.by, name: ref.name, to: ref.ref.to } : null;
}

/** True for targets that are pictures of one kind or another. */
export const arePictures = (to: RefTarget): boolean => kindsOf(to).every((kind) => kindsOf('picture').includes(kind));

/** Choices for a field that refers to something in the show, or has a fixed set of values; null where it is typed. */
export function choicesOf(field: FieldInfo, show: Show): Choice[] | null {
  const none: Choice[] = field.nullable ? [{ value: null, label: 'nothing', picture: null }] : [];
  const named = (to: RefTarget, value: (id: string) => unknown): Choice[] =>
    entitiesOf(show, to).map(({ id, name }) => ({
      value: value(id),
      label: name || '(no name)',
      picture: findPicture(show, id) ? id : null,
    }));
  const part = pointer(field);
  if (part) return [...part.to.flatMap((to) => named(to, (id) => ({ [part.by]: to, [part.name]: id }))), ...none];
  if (field.ref && field.ref.by === undefined) {
    const { to, or, list } = field.ref;
    return [
      ...to.flatMap((t) => named(t, (id) => (list ? [id] : id))),
      ...or.map((word) => ({ value: word, label: word, picture: null })),
      ...none,
    ];
  }
  if (field.type === 'true or false') return [true, false].map((v) => ({ value: v, label: v ? 'yes' : 'no', picture: null }));
  const fixed = [...field.type.matchAll(/`([^`]+)`/g)].map((m) => m[1] as string);
  return fixed.length > 0 ? fixed.map((v) => ({ value: v, label: v, picture: null })) : null;
}

/** True for a field that a person can be asked for: by choosing, or by typing a number or a text. */
export const isAskable = (field: FieldInfo): boolean =>
  pointer(field) !== null || !(field.nested !== undefined || field.variant !== undefined || (field.type.startsWith('list') && !field.ref));
