/** Everything that can be switched: sources, framings, layouts, presets, seats, graphics and their entries share one space of identities. */
import { type Entry, type Graphic } from '../graphics/document';
import { allWindowsOf, filledOf, findGraphic, graphicName, windowsOf } from '../graphics/find';
import { type Gathering } from '../guests/document';
import { type Framing, type Layout, type Preset, type Seat } from '../layout/document';
import { REF_TARGETS } from '../schema/kinds';
import { findOutput } from '../screens/outputs';
import { type Source } from '../show/source';
import { ENTITIES } from './entities';
import { type Holder, walkRefs } from './refs';
import { type Show } from './show';

/** One of the kinds of pictures, with the thing itself. A stored preset is switched and drawn as the layout it is. */
export type Picture =
  | { kind: 'source'; id: string; name: string; source: Source }
  | { kind: 'framing'; id: string; name: string; framing: Framing }
  | { kind: 'layout'; id: string; name: string; layout: Layout | Preset }
  | { kind: 'seat'; id: string; name: string; seat: Seat }
  | { kind: 'gathering'; id: string; name: string; gathering: Gathering }
  /** A graphic by itself, or one of its entries. */
  | { kind: 'graphic'; id: string; name: string; graphic: Graphic; entry: Entry | null };
export type PictureKind = Picture['kind'];

interface PictureTraits<K extends PictureKind> {
  /** Where the show keeps them. */
  find: (show: Show, id: string) => Extract<Picture, { kind: K }> | null;
  /** The source that one comes down to by itself; null where it is made of several. */
  behind: (show: Show, picture: Extract<Picture, { kind: K }>) => string | null;
}

const byId = <T extends { id: string }>(list: readonly T[], id: string): T | undefined => list.find((item) => item.id === id);

/** What is said of each kind of picture; how each is drawn stands in core/picture/scene.ts. */
const PICTURES: { [K in PictureKind]: PictureTraits<K> } = {
  source: {
    find: (show, id) => {
      const source = byId(show.sources, id);
      return source ? { kind: 'source', id, name: source.name, source } : null;
    },
    behind: (_, { id }) => id,
  },
  framing: {
    find: (show, id) => {
      const framing = byId(show.framings, id);
      return framing ? { kind: 'framing', id, name: framing.name, framing } : null;
    },
    behind: (_, { framing }) => framing.sourceId,
  },
  layout: {
    find: (show, id) => {
      const layout = byId(show.layouts, id) ?? byId(show.presets, id);
      return layout ? { kind: 'layout', id, name: layout.name, layout } : null;
    },
    behind: () => null,
  },
  seat: {
    find: (show, id) => {
      const seat = byId(show.seats, id);
      return seat ? { kind: 'seat', id, name: seat.name, seat } : null;
    },
    behind: (show, { seat }) => sourceBehind(show, seat.occupantId),
  },
  gathering: {
    find: (show, id) => {
      const gathering = byId(show.guests.gatherings, id);
      return gathering ? { kind: 'gathering', id, name: gathering.name, gathering } : null;
    },
    behind: () => null,
  },
  graphic: {
    find: (show, id) => {
      const found = findGraphic(show, id);
      return found && { kind: 'graphic', id, name: graphicName(found), ...found };
    },
    behind: () => null,
  },
};

const KINDS = Object.keys(PICTURES) as PictureKind[];

/** The picture with this identity; null when the show has none. */
export function findPicture(show: Show, id: string | null): Picture | null {
  if (id === null) return null;
  for (const kind of KINDS) {
    const found = PICTURES[kind].find(show, id);
    if (found) return found;
  }
  return null;
}

/** The source with this identity. */
export const findSource = (show: Show, id: string | null): Source | undefined =>
  id === null ? undefined : show.sources.find((s) => s.id === id);

/** The name of a picture or output; says so when it is gone. */
export const pictureName = (show: Show, id: string | null): string =>
  id === null ? 'Nothing' : (findPicture(show, id)?.name ?? findOutput(show, id)?.name ?? 'Missing picture');

/** Everything that is switched, with the place of its identity: one space of identities and one of numbers. */
export function switchable(show: Show): { id: string; name: string; number: number | null; path: string }[] {
  return REF_TARGETS.picture.kinds.flatMap((kind) => {
    const list = ENTITIES[kind].list(show) as readonly { id: string; name: string; number?: number | null }[];
    const field = ENTITIES[kind].home?.(show).field ?? kind;
    return list.map(({ id, name, number = null }, i) => ({ id, name, number, path: `${field}[${i}]` }));
  });
}

/** The picture that wears this number on keys. */
export const pictureByNumber = (show: Show, number: number): { id: string; name: string } | undefined =>
  switchable(show).find((p) => p.number === number);

const PICTURE_KINDS = new Set(REF_TARGETS.picture.kinds);
const shownParts = new WeakMap<object, readonly string[]>();
const allParts = new WeakMap<object, readonly string[]>();

/** Whoever counts may be seen in a gathered view, and is heard with it; who waits is neither, wherever they are. */
const withinGathering = (show: Show, { kind, restId }: Gathering): string[] =>
  show.guests.list
    .flatMap((g) => (g.counts ? [g.sourceId, ...(kind === 'shared' && g.screenId !== null ? [g.screenId] : [])] : []))
    .concat(restId ?? []);

/** Identities of the pictures directly inside one: its occupant, its source, its boxes and keys. Hidden boxes count with `all`. */
function inside(show: Show, id: string, all: boolean): readonly string[] {
  const found = findGraphic(show, id);
  // An entry is a way of showing its graphic: a circle through one is a circle through the other.
  if (found) return all ? [...(found.entry ? [found.graphic.id] : []), ...allWindowsOf(found.graphic)] : windowsOf(filledOf(found));
  const gathering = show.guests.gatherings.find((g) => g.id === id);
  if (gathering) return withinGathering(show, gathering);
  for (const kind of REF_TARGETS.picture.kinds) {
    if (kind === 'graphic' || kind === 'entry' || kind === 'gathering') continue;
    const { of, list } = ENTITIES[kind];
    const item = kind === 'source' ? undefined : list(show).find((entity) => entity.id === id);
    if (item && of) return partsOf(of as Parameters<typeof walkRefs>[0], item, all);
  }
  return [];
}

function partsOf(of: Parameters<typeof walkRefs>[0], item: object, all: boolean): readonly string[] {
  const known = (all ? allParts : shownParts).get(item);
  if (known) return known;
  const parts: string[] = [];
  const enter = ({ value }: Holder) => all || value.visible !== false;
  walkRefs(of, item, ({ ref, id }) => ref.seen && parts.push(id), PICTURE_KINDS, enter);
  // Documents never change in place, so what was found stays true; a draft is not frozen, and is looked at every time.
  if (Object.isFrozen(item)) (all ? allParts : shownParts).set(item, parts);
  return parts;
}

/** Every picture that is seen in one, itself included. With `all`, hidden boxes too. */
export function picturesWithin(show: Show, id: string | null, all = false): Set<string> {
  const found = new Set<string>();
  const visit = (next: string) => {
    if (found.has(next)) return;
    found.add(next);
    inside(show, next, all).forEach(visit);
  };
  if (id !== null) visit(id);
  return found;
}

/** What a live deck shows of each angle is seen in it too, when circles are looked for. */
function insideWithAngles(show: Show, id: string): readonly string[] {
  const isDeck = show.sources.some((s) => s.id === id && s.settings.kind === 'deck');
  return isDeck ? show.replay.angles.map((a) => a.pictureId) : inside(show, id, true);
}

/** The names along a circle that putting `inner` into `outer` would close; null when it would close none. */
export function circleThrough(show: Show, outer: string, inner: string): string[] | null {
  const path: string[] = [];
  const seen = new Set<string>();
  const search = (id: string): boolean => {
    path.push(pictureName(show, id));
    if (id === outer) return true;
    if (!seen.has(id)) {
      seen.add(id);
      if (insideWithAngles(show, id).some(search)) return true;
    }
    path.pop();
    return false;
  };
  return search(inner) ? [pictureName(show, outer), ...path] : null;
}

/** The source that a source, framing or seat comes down to; null for layouts and empty seats. */
export function sourceBehind(show: Show, id: string | null): string | null {
  const picture = findPicture(show, id);
  return picture && (PICTURES[picture.kind].behind as (show: Show, picture: Picture) => string | null)(show, picture);
}
