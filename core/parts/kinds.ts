/** What of a show can leave it and come into another by itself: one table for files, choosing, and the command that brings things in. */
import { ENTITIES, identityOf, kindOfClass } from '../desk/entities';
import { type Show } from '../desk/show';
import { type Constructor, fieldMap } from '../schema/fields';
import { type EntityKind } from '../schema/kinds';
import { isRecord } from '../schema/record';

/** In the order in which they are chosen. What belongs to one machine or one day (patches, clips, replay) stays with its show. */
export const PART_KINDS = [
  'source',
  'group',
  'framing',
  'layout',
  'preset',
  'style',
  'seat',
  'lane',
  'transition',
  'tableau',
  'graphic',
  'clock',
  'finish',
  'font',
  'sheet',
  'input',
  'bus',
  'listener',
  'fader-group',
  'strip-preset',
  'macro',
  'trigger',
  'item',
  'device',
  'page',
] as const satisfies readonly EntityKind[];
export type PartKind = (typeof PART_KINDS)[number];

interface PartTraits {
  /** Heading over a list of them. */
  title: string;
  /** What one is called. */
  one: string;
  /** What names it is whole without it: it goes along only when it is chosen itself. */
  loose?: true;
}

export const PARTS: Record<PartKind, PartTraits> = {
  source: { title: 'Sources', one: 'source' },
  group: { title: 'Groups of sources', one: 'group', loose: true },
  framing: { title: 'Framings', one: 'framing' },
  layout: { title: 'Layouts', one: 'layout' },
  preset: { title: 'Presets of layouts', one: 'preset' },
  style: { title: 'Styles', one: 'style' },
  seat: { title: 'Seats', one: 'seat' },
  lane: { title: 'Lanes', one: 'lane' },
  transition: { title: 'Transitions', one: 'transition' },
  tableau: { title: 'Tableaux', one: 'tableau' },
  graphic: { title: 'Graphics', one: 'graphic' },
  clock: { title: 'Clocks', one: 'clock' },
  finish: { title: 'Finishes', one: 'finish' },
  font: { title: 'Fonts', one: 'font' },
  sheet: { title: 'Sheets', one: 'sheet' },
  input: { title: 'Sound channels', one: 'channel' },
  bus: { title: 'Buses', one: 'bus', loose: true },
  listener: { title: 'Listeners', one: 'listener', loose: true },
  'fader-group': { title: 'Fader groups', one: 'fader group', loose: true },
  'strip-preset': { title: 'Presets of channels', one: 'preset of a channel' },
  macro: { title: 'Macros', one: 'macro' },
  trigger: { title: 'Triggers', one: 'trigger' },
  item: { title: 'Items of the running order', one: 'item' },
  device: { title: 'Devices', one: 'device' },
  page: { title: 'Pages of buttons', one: 'page of buttons' },
};

/** One thing that can go by itself. */
export interface Part {
  kind: PartKind;
  id: string;
  name: string;
}

/** A part by its kind and identity: things of two kinds may have the same. */
export const partKey = ({ kind, id }: { kind: EntityKind; id: string }): string => `${kind} ${id}`;

/** Everything of a show that can go by itself, in the order of the table. */
export const partsOf = (show: Show): Part[] =>
  PART_KINDS.flatMap((kind) => ENTITIES[kind].list(show).map(({ id, name }): Part => ({ kind, id, name: name || id })));

/** The class of the things of a kind. */
export const classOf = (kind: PartKind): Constructor => ENTITIES[kind].of as Constructor;

/** The document's own object for a part; undefined when it is not there. */
export function valueOf(show: Show, { kind, id }: Pick<Part, 'kind' | 'id'>): Record<string, unknown> | undefined {
  const home = ENTITIES[kind].home?.(show, id);
  return (home?.in[home.field] as Record<string, unknown>[] | undefined)?.find((item) => identityOf(kind, item) === id);
}

/** A thing within a part that has an identity of its own: an entry, a box, a message, a button. */
export interface Inner {
  kind: EntityKind;
  value: Record<string, unknown>;
}

/** All things with identities within an object of a described class. */
export function innerOf(of: Constructor, value: Record<string, unknown>): Inner[] {
  const found: Inner[] = [];
  for (const field of fieldMap(of).values()) {
    const inner = value[field.name];
    if (!isRecord(inner) && !Array.isArray(inner)) continue;
    const chosen = field.variant?.(inner as Record<string, unknown>) ?? field.nested?.of();
    if (!chosen) continue;
    const kind = kindOfClass(chosen);
    for (const one of Array.isArray(inner) ? (inner as Record<string, unknown>[]) : [inner]) {
      if (kind) found.push({ kind, value: one });
      found.push(...innerOf(chosen, one));
    }
  }
  return found;
}

/** Of which part each thing of a show is: itself, or what it stands in. By kind and identity. */
export function ownersIn(show: Show): Map<string, Part> {
  const owners = new Map<string, Part>();
  for (const part of partsOf(show)) {
    owners.set(partKey(part), part);
    const value = valueOf(show, part);
    if (value)
      for (const { kind, value: inner } of innerOf(classOf(part.kind), value))
        owners.set(partKey({ kind, id: identityOf(kind, inner) }), part);
  }
  return owners;
}
