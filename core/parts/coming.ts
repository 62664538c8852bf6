/** What comes into a show, or leaves it, by what is chosen: with what goes along, and what of the show is like it. */
import { type Command } from '../commands/command';
import { asksForHold } from '../desk/registry';
import { type Desk } from '../desk/air';
import { type Entity } from '../desk/entities';
import { type Show } from '../desk/show';
import { bringing, type Brought, type Decision, isOnly, likeIn } from './bring';
import { type Part, partKey, partsOf } from './kinds';
import { neededBy } from './needs';

/** A part that is chosen, or goes along. */
export interface Coming {
  key: string;
  part: Part;
  /** The name of what needs it; null for what was chosen. */
  by: string | null;
  /** What is like it in the show that it comes into. */
  like: Entity | null;
  /** It cannot stand beside its like. */
  only: boolean;
  /** What becomes of it; null when it stays out. */
  as: Decision['as'] | null;
}

interface Choices {
  chosen: ReadonlySet<string>;
  without: ReadonlySet<string>;
  decided: ReadonlyMap<string, Decision['as']>;
}

/** Everything that is chosen of a show, and what goes along; `into` is the show that it comes into, null when it is saved. */
export function comingOf(from: Show, into: Show | null, { chosen, without, decided }: Choices): Coming[] {
  const parts = partsOf(from).filter((part) => chosen.has(partKey(part)));
  const list = [...parts.map((part) => ({ part, by: null })), ...neededBy(from, chosen, without).map(({ by, ...part }) => ({ part, by }))];
  return list.map(({ part, by }): Coming => {
    const key = partKey(part);
    const like = into && likeIn(into, from, part);
    const only = like !== null && isOnly(from, part);
    // What is needed and here already serves; what was asked for comes, beside what is here rather than in its place.
    const usual = like !== null && (by !== null || only) ? 'use' : 'new';
    const said = like === null ? 'new' : (decided.get(key) ?? usual);
    return { key, part, by, like, only, as: by !== null && without.has(key) ? null : said };
  });
}

/** What is decided, as `bringing` takes it. */
const decisionsOf = (list: readonly Coming[]): Map<string, Decision> =>
  new Map(
    list.flatMap(({ key, like, as }): [string, Decision][] => {
      if (as === null) return [];
      return [[key, as === 'new' || like === null ? { as: 'new' } : { as, id: like.id }]];
    }),
  );

/** Parts of a file as they come into a show. */
export const broughtBy = (show: Show, file: Show, list: readonly Coming[], newId: () => string): Brought =>
  bringing(show, file, decisionsOf(list), newId);

/** The commands that bring things in, as one step; the settings of recording and stream only when they are asked for. */
export function bringCommands(
  { things, eyes = [], sends = [], overrides = [], output }: Pick<Brought, 'things'> & Partial<Brought>,
  withOutput = false,
): Command[] {
  const devices = things.filter((t) => t.kind === 'device').map((t) => t.value);
  const rest = things.filter((t) => t.kind !== 'device');
  return [
    ...(devices.length > 0 ? [{ type: 'device.bring', args: { devices } }] : []),
    ...(rest.length > 0 || withOutput
      ? [{ type: 'show.bring', args: { things: rest, eyes, sends, overrides, ...(withOutput && output && { output }) } }]
      : []),
  ];
}

/** True when something that the audience sees is replaced by this. */
export const changesAir = (desk: Desk, list: readonly Coming[]): boolean => {
  const things = list.flatMap(({ part, like, as }) => (as === 'replace' && like ? [{ kind: part.kind, value: { id: like.id } }] : []));
  return asksForHold(desk, { type: 'show.bring', args: { things, eyes: [], sends: [], overrides: [] } });
};
