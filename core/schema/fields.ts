/**
 * Decorators that say what a field is, once: for validation (class-validator), for the generated command
 * reference, and for messages. Used by the show document and by every command's arguments.
 */
import 'reflect-metadata';
import { REF_TARGETS, type RefTarget } from './kinds';
import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsNotIn,
  IsNumber,
  IsObject,
  IsString,
  Length,
  Matches,
  Max,
  Min,
  ValidateBy,
  ValidateIf,
} from 'class-validator';

export type Constructor<T extends object = object> = new () => T;

/** What a field that refers to something says of it. */
export interface RefInfo {
  /** What it may point at; of several, a field beside it names the one. */
  to: readonly RefTarget[];
  /** Name of the field beside it whose value is one of `to`. */
  by?: string;
  list: boolean;
  /** Words that are meant by themselves and point at nothing in the show. */
  or: readonly string[];
  /** Words before the name of the place, with their preposition: "frame of". */
  as: string;
  /** Goes away as a whole with what it points at, although it could be null: null would mean something else. */
  whole: boolean;
  /** What it points at is seen in what holds it. */
  seen: boolean;
  /** Keeps what it points at from being removed unasked. */
  counts: boolean;
}

/** What is known of one field of a class. */
export interface FieldInfo {
  name: string;
  /** For people: "whole number 1 to 9999, frames". */
  type: string;
  about: string;
  optional: boolean;
  nullable: boolean;
  /** What it refers to, where it does. */
  ref?: RefInfo;
  /** For an object that is a part with a role of its own: words before the name of the place, "background of". */
  as?: string;
  nested?: { of: () => Constructor; list: boolean };
  /** Picks the class of a union member from the raw value; null when the value names none. */
  variant?: ByKind;
}

interface Options {
  optional?: boolean;
  nullable?: boolean;
}

const registry = new WeakMap<object, Map<string, FieldInfo>>();

/** Every described field of a class, in order of declaration, inherited ones first. */
export function fieldsOf(of: Constructor): FieldInfo[] {
  return [...fieldMap(of).values()];
}

const maps = new WeakMap<Constructor, ReadonlyMap<string, FieldInfo>>();

/** Every described field of a class by its name, in the order of `fieldsOf`. */
export function fieldMap(of: Constructor): ReadonlyMap<string, FieldInfo> {
  let map = maps.get(of);
  if (!map) {
    const parent = Object.getPrototypeOf(of.prototype) as object | null;
    const inherited = parent && parent !== Object.prototype ? fieldMap(parent.constructor as Constructor) : [];
    map = new Map([...inherited, ...(registry.get(of.prototype as object) ?? [])]);
    maps.set(of, map);
  }
  return map;
}

function field(
  type: string,
  about: string,
  options: Options,
  validators: PropertyDecorator[],
  extra: Partial<FieldInfo> = {},
): PropertyDecorator {
  return (target, key) => {
    const own = registry.get(target) ?? new Map<string, FieldInfo>();
    registry.set(target, own);
    const nullable = options.nullable ?? false;
    own.set(String(key), { name: String(key), type, about, optional: options.optional ?? false, nullable, ...extra });
    if (options.optional) ValidateIf((_, value) => value !== undefined)(target, key);
    if (nullable) ValidateIf((_, value) => value !== null)(target, key);
    for (const validator of validators) validator(target, key);
  };
}

/**
 * Names that every object has in the language itself (`constructor`, `__proto__`, …). What is kept by identity would find the language's
 * own things under them, so none may be an identity.
 */
export const LANGUAGE_NAMES: readonly string[] = Object.getOwnPropertyNames(Object.prototype);

/** Text of at most `max` characters, and at least `min` (default 0). */
export const Text = (max: number, about: string, options: Options & { min?: number } = {}) =>
  field(`text, ${options.min ?? 0} to ${max} characters`, about, options, [IsString(), Length(options.min ?? 0, max)]);

/** An identity: letters, digits, `-` and `_`, at most 64; none of the language's own names. What points at something else is a `Ref`. */
export const Id = (about: string, options: Options = {}) => field('id', about, options, ID_RULES());

/** Identity of a device, as the browser gives it; empty for the default one. Things are kept by it, as by an `Id`. */
export const DeviceId = (about: string, options: Options = {}) =>
  field('text, 0 to 256 characters', about, options, [IsString(), Length(0, 256), IsNotIn([...LANGUAGE_NAMES])]);

/** A finite number in a closed range. */
export const Num = (min: number, max: number, about: string, options: Options = {}) =>
  field(`number ${min} to ${max}`, about, options, [IsNumber({ allowNaN: false, allowInfinity: false }), Min(min), Max(max)]);

/** A whole number in a closed range. */
export const Whole = (min: number, max: number, about: string, options: Options = {}) =>
  field(`whole number ${min} to ${max}`, about, options, [IsInt(), Min(min), Max(max)]);

export const Flag = (about: string, options: Options = {}) => field('true or false', about, options, [IsBoolean()]);

export const OneOf = (values: readonly string[], about: string, options: Options = {}) =>
  field(values.map((v) => `\`${v}\``).join(', '), about, options, [IsIn([...values])]);

/** `#rrggbb`. */
export const Colour = (about: string, options: Options = {}) =>
  field('colour, #rrggbb', about, options, [Matches(/^#[0-9a-fA-F]{6}$/, { message: '$property must be a colour such as #1b2a2e' })]);

/** A list of identities, at most `max`. */
export const Ids = (max: number, about: string, options: Options = {}) =>
  field(`list of ids, at most ${max}`, about, options, LIST_RULES(max));

type RefOptions = Options & Partial<Pick<RefInfo, 'or' | 'as' | 'whole' | 'seen' | 'counts'>>;

const refInfo = (to: readonly RefTarget[], list: boolean, { or = [], as = '', whole = false, seen = true, counts = true }: RefOptions) => ({
  to,
  list,
  or,
  as,
  whole,
  seen,
  counts,
});

const ID_RULES = () => [IsString(), Matches(/^[\w-]{1,64}$/, { message: '$property must be an id' }), IsNotIn([...LANGUAGE_NAMES])];

/** A reference: the identity of something else in the show (see kinds.ts). */
export const Ref = (to: RefTarget, about: string, options: RefOptions = {}) =>
  field(`id of a ${REF_TARGETS[to].words}`, about, options, ID_RULES(), { ref: refInfo([to], false, options) });

/** A reference whose target is what the field `by` beside it says. */
export const RefBy = (by: string, to: readonly RefTarget[], about: string, options: RefOptions = {}) =>
  field('id', about, options, ID_RULES(), { ref: { ...refInfo(to, false, options), by } });

/** A list of references, at most `max`. */
export const Refs = (to: RefTarget, max: number, about: string, options: RefOptions = {}) =>
  field(`list of ids of a ${REF_TARGETS[to].words}, at most ${max}`, about, options, LIST_RULES(max), {
    ref: refInfo([to], true, options),
  });

const LIST_RULES = (max: number) => [
  IsArray(),
  ArrayMaxSize(max),
  Matches(/^[\w-]{1,64}$/, { each: true, message: '$property must be ids' }),
  IsNotIn([...LANGUAGE_NAMES], { each: true }),
];

/** True for text of at most `most` characters; signs beyond the basic plane count as one, as `Length` counts them. */
const isText = (value: unknown, most: number): boolean =>
  typeof value === 'string' && (value.length <= most || (value.length <= 2 * most && [...value].length <= most));

/** A list of texts of at most `length` characters each, at most `max` of them. */
export const TextList = (max: number, length: number, about: string, options: Options = {}) =>
  field(`list of texts, at most ${max}`, about, options, [
    IsArray(),
    ArrayMaxSize(max),
    // In one go: there may be tens of thousands, again and again.
    ValidateBy({
      name: 'texts',
      validator: { validate: (value: unknown) => Array.isArray(value) && value.every((v) => isText(v, length)) },
    }),
  ]);

/** A list of some of the named values. */
export const SomeOf = (values: readonly string[], about: string, options: Options = {}) =>
  field(`list of ${values.map((v) => `\`${v}\``).join(', ')}`, about, options, [
    IsArray(),
    ArrayMaxSize(values.length),
    IsIn([...values], { each: true }),
  ]);

/** A list of whole numbers, each from `min` to `max`. */
export const Wholes = (most: number, min: number, max: number, about: string, options: Options = {}) =>
  field(`list of at most ${most} whole numbers ${min} to ${max}`, about, options, [
    IsArray(),
    ArrayMaxSize(most),
    IsInt({ each: true }),
    Min(min, { each: true }),
    Max(max, { each: true }),
  ]);

/** A list of numbers, each from `min` to `max`. */
export const Nums = (most: number, min: number, max: number, about: string, options: Options = {}) =>
  field(`list of at most ${most} numbers ${min} to ${max}`, about, options, [
    IsArray(),
    ArrayMaxSize(most),
    IsNumber({}, { each: true }),
    Min(min, { each: true }),
    Max(max, { each: true }),
  ]);

/** An object whose names are not known beforehand; whoever reads it checks them. */
export const AnyObject = (about: string, options: Options = {}) => field('object', about, options, [IsObject()]);

/** One nested object of a described class. */
export const Nested = (of: () => Constructor, about: string, options: Options & { as?: string } = {}) =>
  field('object', about, options, [IsObject()], { nested: { of, list: false }, ...(options.as !== undefined && { as: options.as }) });

/** A list of nested objects, at most `max`. */
export const ListOf = (of: () => Constructor, max: number, about: string, options: Options = {}) =>
  field(`list, at most ${max}`, about, options, [IsArray(), ArrayMaxSize(max)], { nested: { of, list: true } });

/** Picks the class of a union member by the raw value's `kind`; null when that names none. */
export interface ByKind {
  (raw: Record<string, unknown>): Constructor | null;
  /** Every class there is to pick from. */
  readonly classes: readonly Constructor[];
}

/** A union whose members are told apart by `kind`; one class for each, and a kind that is forgotten does not compile. */
export function byKind<K extends string>(classes: Record<K, Constructor>): ByKind {
  const pick = (raw: Record<string, unknown>) =>
    typeof raw.kind === 'string' && Object.hasOwn(classes, raw.kind) ? classes[raw.kind as K] : null;
  return Object.assign(pick, { classes: Object.values<Constructor>(classes) });
}

/** One nested object whose class depends on its content. */
export const Variant = (variant: ByKind, about: string, options: Options = {}) =>
  field('object', about, options, [IsObject()], { variant });
