/** Steps that bring old shows up to date. They are frozen: each is written out in full and calls nothing that may change later. */

/** Data of a version whose classes are gone. */
export type Raw = Record<string, unknown>;

/** What one domain does to reach a version: by the version that it makes. A step gets the whole show, or the whole of air with the show as it is today, and changes its own part. */
export type Migrations = Readonly<Record<number, (raw: Raw, show: Raw) => Raw>>;

/** The objects in what should be a list of them. */
export const listOf = (value: unknown): Raw[] =>
  Array.isArray(value) ? (value as unknown[]).filter((item): item is Raw => typeof item === 'object' && item !== null) : [];

/** An object; empty where there is none. */
export const objectOf = (value: unknown): Raw => (typeof value === 'object' && value !== null ? (value as Raw) : {});

/** A number of an old form; anything else is as if it were not there, and what reads the show says so where it matters. */
export const numberOf = (value: unknown, otherwise: number): number =>
  typeof value === 'number' && Number.isFinite(value) ? value : otherwise;
