/** Everything in a show that has an identity: which class it is of, and where the show keeps it. */
import { Macro } from '../automation/document';
import { Trigger } from '../automation/document';
import { Box, Framing, Layout, Preset, Seat, Style } from '../layout/document';
import { Clock, Entry, Graphic, OwnFont } from '../graphics/document';
import { StoredFinish } from '../graphics/fill';
import { entryName } from '../graphics/find';
import { ButtonPage, PageButton } from '../buttons/document';
import { Poll, QueuedComment } from '../audience/document';
import { Cast, Gathering, Guest } from '../guests/document';
import { Device, DeviceMessage } from '../devices/document';
import { OrderItem } from '../order/document';
import { Lane, Override, StoredTransition, Tableau } from '../picture/document';
import { Angle, Clip, Reel } from '../replay/document';
import { type Constructor } from '../schema/fields';
import { type EntityKind, kindsOf, type RefTarget } from '../schema/kinds';
import { ScreenOutput } from '../screens/document';
import { Layer, NamedPlace, Screen, Surface, SurfacePreset } from '../screens/surface';
import { MIXER_OUTPUTS } from '../screens/outputs';
import { Sheet } from '../sheets/document';
import { SourceGroup } from '../show/document';
import { Source } from '../show/source';
import { AirPath, Bus, CardMix, FaderGroup, InputChannel, Listener, Patch, StripPreset } from '../sound/document';
import { type Show } from './show';

/** A thing with an identity, and its name where it has one. */
export interface Entity {
  id: string;
  name: string;
}

interface EntityTraits {
  /** Its class in the document; null for what is not stored there. */
  of: Constructor | null;
  list: (show: Show) => readonly Entity[];
  /** The object and its field that hold the list of them; null where they are not stored in one list. */
  home: ((show: Show, id?: string) => Home) | null;
}

type Home = { in: Record<string, unknown>; field: string };

const homeIn =
  <T extends object>(of: (show: Show) => T, field: keyof T & string) =>
  (show: Show): Home => ({ in: of(show) as Record<string, unknown>, field });
const inShow = (field: keyof Show) => homeIn((show) => show, field);
const inSound = (field: keyof Show['sound']) => homeIn((show) => show.sound, field);
const inGraphics = (field: keyof Show['graphics']) => homeIn((show) => show.graphics, field);
const inScreens = (field: keyof Show['screens']) => homeIn((show) => show.screens, field);
const inReplay = (field: keyof Show['replay']) => homeIn((show) => show.replay, field);

/** The list that holds a thing with this identity, of several that have such a list each. */
const homeOf = <K extends string>(holders: readonly { [F in K]: readonly { id: string }[] }[], field: K, id?: string): Home => ({
  in: (holders.find((h) => h[field].some((item) => item.id === id)) ?? { [field]: [] }) as unknown as Record<string, unknown>,
  field,
});

const entryLists = new WeakMap<readonly Graphic[], readonly Entity[]>();

/** Every entry of every graphic, named. There may be thousands: worked out once for each state. */
function entryList(graphics: readonly Graphic[]): readonly Entity[] {
  const known = entryLists.get(graphics);
  if (known) return known;
  const list = graphics.flatMap((graphic) => graphic.entries.map((e) => ({ id: e.id, name: entryName(graphic, e) })));
  if (Object.isFrozen(graphics)) entryLists.set(graphics, list);
  return list;
}

const bySound = (item: { id: string; name?: string }): Entity => ({ id: item.id, name: item.name ?? '' });

export const ENTITIES: Record<EntityKind, EntityTraits> = {
  source: { of: Source, list: (show) => show.sources, home: inShow('sources') },
  framing: { of: Framing, list: (show) => show.framings, home: inShow('framings') },
  layout: { of: Layout, list: (show) => show.layouts, home: inShow('layouts') },
  preset: { of: Preset, list: (show) => show.presets, home: inShow('presets') },
  seat: { of: Seat, list: (show) => show.seats, home: inShow('seats') },
  output: { of: null, list: () => MIXER_OUTPUTS, home: null },
  screen: { of: ScreenOutput, list: (show) => show.screens.outputs, home: inScreens('outputs') },
  surface: { of: Surface, list: (show) => show.screens.surfaces, home: inScreens('surfaces') },
  'surface-preset': { of: SurfacePreset, list: (show) => show.screens.presets, home: inScreens('presets') },
  'surface-screen': {
    of: Screen,
    list: (show) => show.screens.surfaces.flatMap((s) => s.screens),
    home: (show, id) => homeOf(show.screens.surfaces, 'screens', id),
  },
  layer: { of: Layer, list: (show) => show.screens.surfaces.flatMap((s) => s.look.layers), home: null },
  place: {
    of: NamedPlace,
    list: (show) => show.screens.surfaces.flatMap((s) => s.places),
    home: (show, id) => homeOf(show.screens.surfaces, 'places', id),
  },
  graphic: { of: Graphic, list: (show) => show.graphics.list, home: inGraphics('list') },
  entry: {
    of: Entry,
    list: (show) => entryList(show.graphics.list),
    // Each graphic has a list of its own.
    home: (show, id) => homeOf(show.graphics.list, 'entries', id),
  },
  clock: { of: Clock, list: (show) => show.graphics.clocks, home: inGraphics('clocks') },
  finish: { of: StoredFinish, list: (show) => show.graphics.finishes, home: inGraphics('finishes') },
  font: {
    of: OwnFont,
    list: (show) => show.graphics.fonts.map(({ id, family }) => ({ id, name: family })),
    home: inGraphics('fonts'),
  },
  sheet: { of: Sheet, list: (show) => show.sheets, home: inShow('sheets') },
  tableau: { of: Tableau, list: (show) => show.tableaux, home: inShow('tableaux') },
  macro: { of: Macro, list: (show) => show.automation.macros, home: homeIn((show) => show.automation, 'macros') },
  trigger: { of: Trigger, list: (show) => show.automation.triggers, home: homeIn((show) => show.automation, 'triggers') },
  device: { of: Device, list: (show) => show.devices, home: inShow('devices') },
  message: {
    of: DeviceMessage,
    list: (show) => show.devices.flatMap((d) => d.messages),
    home: (show, id) => homeOf(show.devices, 'messages', id),
  },
  page: { of: ButtonPage, list: (show) => show.pages, home: inShow('pages') },
  button: {
    of: PageButton,
    list: (show) => show.pages.flatMap((p) => p.buttons),
    home: (show, id) => homeOf(show.pages, 'buttons', id),
  },
  item: { of: OrderItem, list: (show) => show.order.items, home: homeIn((show) => show.order, 'items') },
  lane: { of: Lane, list: (show) => show.lanes, home: inShow('lanes') },
  group: { of: SourceGroup, list: (show) => show.groups, home: inShow('groups') },
  style: { of: Style, list: (show) => show.styles, home: inShow('styles') },
  transition: { of: StoredTransition, list: (show) => show.transitions, home: inShow('transitions') },
  override: { of: Override, list: (show) => show.overrides.map(({ id }) => ({ id, name: '' })), home: inShow('overrides') },
  box: { of: Box, list: (show) => [...show.layouts, ...show.presets].flatMap((l) => l.boxes), home: null },
  angle: {
    of: Angle,
    list: (show) => show.replay.angles.map((a) => ({ id: a.pictureId, name: nameOf(show, 'view', a.pictureId) })),
    home: inReplay('angles'),
  },
  reel: { of: Reel, list: (show) => show.replay.reels, home: inReplay('reels') },
  clip: { of: Clip, list: (show) => show.replay.clips, home: inReplay('clips') },
  input: { of: InputChannel, list: (show) => show.sound.inputs, home: inSound('inputs') },
  bus: { of: Bus, list: (show) => show.sound.buses, home: inSound('buses') },
  listener: { of: Listener, list: (show) => show.sound.listeners, home: inSound('listeners') },
  patch: { of: Patch, list: (show) => show.sound.patches.map(bySound), home: inSound('patches') },
  'fader-group': { of: FaderGroup, list: (show) => show.sound.groups, home: inSound('groups') },
  'strip-preset': { of: StripPreset, list: (show) => show.sound.presets, home: inSound('presets') },
  'card-mix': { of: CardMix, list: (show) => show.sound.cards.flatMap((c) => c.mixes).map(bySound), home: null },
  'air-path': { of: AirPath, list: (show) => show.sound.paths.map(bySound), home: inSound('paths') },
  guest: { of: Guest, list: (show) => show.guests.list, home: homeIn((show) => show.guests, 'list') },
  cast: { of: Cast, list: (show) => show.guests.casts, home: homeIn((show) => show.guests, 'casts') },
  gathering: { of: Gathering, list: (show) => show.guests.gatherings, home: homeIn((show) => show.guests, 'gatherings') },
  poll: {
    of: Poll,
    list: (show) => show.audience.polls.map(({ id, question }) => ({ id, name: question })),
    home: homeIn((show) => show.audience, 'polls'),
  },
  comment: { of: QueuedComment, list: (show) => show.audience.queue, home: homeIn((show) => show.audience, 'queue') },
  asset: { of: null, list: () => [], home: null },
};

/** Everything that a reference of this target may point at, in the order of the show. */
export const entitiesOf = (show: Show, to: RefTarget): readonly Entity[] => kindsOf(to).flatMap((kind) => ENTITIES[kind].list(show));

/** What is called so, as people say it: upper and lower case are the same. Of several the first. */
export function entityNamed(show: Show, to: RefTarget, name: string): Entity | undefined {
  const wanted = name.trim().toLowerCase();
  return entitiesOf(show, to).find((e) => e.name.toLowerCase() === wanted);
}

/** The name of what a reference points at; its identity where it has none, or is gone. */
export function nameOf(show: Show, to: RefTarget, id: string): string {
  for (const kind of kindsOf(to)) {
    const found = ENTITIES[kind].list(show).find((e) => e.id === id);
    if (found) return found.name || id;
  }
  return id;
}

const kindByClass = new Map(Object.entries(ENTITIES).flatMap(([kind, { of }]) => (of ? [[of, kind as EntityKind] as const] : [])));

/** The kind of thing that objects of this class are; undefined for parts of things. */
export const kindOfClass = (of: Constructor): EntityKind | undefined => kindByClass.get(of);

/** The identity of an entity of the document: an angle's is that of its picture. */
export const identityOf = (kind: EntityKind, value: Record<string, unknown>): string =>
  String(kind === 'angle' ? value.pictureId : value.id);
