/** Layouts of keys: which control does what, in which room, for one person. */
import { actionWords, type ActionArgs } from './action';
import { findAction } from './actions';
import { Binding, KEYBOARD } from './binding';
import { chordName } from './chord';
import { FIRST_BINDINGS } from './first-bindings';
import { Id, ListOf, Text } from '../schema/fields';
import { type KeyRoom, type RoomId, ROOMS } from './rooms';

/** One layout of keys, by name: what is different from the first one. */
export class KeyLayout {
  @Id('identity') id!: string;
  @Text(60, 'name', { min: 1 }) name!: string;
  @ListOf(() => Binding, 2000, 'what differs from how it comes') changes!: readonly Binding[];
}

/** Layout of keys of somebody who has changed nothing. */
export const FIRST_LAYOUT: KeyLayout = { id: 'first', name: 'As it comes', changes: [] };

type Place = Pick<Binding, 'device' | 'control' | 'room'>;

const placeOf = ({ device, control, room }: Place): string => `${device} ${room} ${control}`;

/** Bindings as they are in force, by their place. Made once for each layout. */
function inForce(layout: KeyLayout): ReadonlyMap<string, Binding> {
  const kept = made.get(layout);
  if (kept) return kept;
  const map = new Map(FIRST_BINDINGS.map((b) => [placeOf(b), b]));
  for (const change of layout.changes) {
    if (change.action === '') map.delete(placeOf(change));
    else map.set(placeOf(change), change);
  }
  made.set(layout, map);
  return map;
}

const made = new WeakMap<KeyLayout, ReadonlyMap<string, Binding>>();

/** All bindings in force. */
export const bindingsOf = (layout: KeyLayout): readonly Binding[] => [...inForce(layout).values()];

/** What a control does in a room: the room's own meaning goes before the one of every room. */
export function bindingFor(layout: KeyLayout, room: RoomId, device: string, control: string): Binding | undefined {
  const map = inForce(layout);
  return map.get(placeOf({ device, control, room })) ?? map.get(placeOf({ device, control, room: 'all' }));
}

/** An action with its arguments, as one word. */
const deedOf = (action: string, args: ActionArgs): string =>
  [
    action,
    ...Object.keys(args)
      .sort()
      .map((n) => `${n}=${args[n]}`),
  ].join(' ');

const named = new WeakMap<KeyLayout, Map<RoomId, Map<string, string[]>>>();

/** Keys of every action in a room. Made once for each layout and room, as every button asks for its own. */
function namesIn(layout: KeyLayout, room: RoomId): Map<string, string[]> {
  const rooms = named.get(layout) ?? new Map<RoomId, Map<string, string[]>>();
  named.set(layout, rooms);
  const kept = rooms.get(room);
  if (kept) return kept;
  const names = new Map<string, string[]>();
  const here = bindingsOf(layout).filter(
    (b) => b.device === KEYBOARD && (b.room === room || b.room === 'all') && bindingFor(layout, room, b.device, b.control) === b,
  );
  for (const b of here.sort((x, y) => Number(x.room === 'all') - Number(y.room === 'all'))) {
    const deed = deedOf(b.action, b.args);
    names.set(deed, [...(names.get(deed) ?? []), chordName(b.control)]);
  }
  rooms.set(room, names);
  return names;
}

/** Keys that do an action in a room, as people say them; those of the room first. */
export const keyNames = (layout: KeyLayout, room: RoomId, action: string, args: ActionArgs = {}): readonly string[] =>
  namesIn(layout, room).get(deedOf(action, args)) ?? [];

/** The layout with a binding changed; what stood in its place no longer does. */
export function bind(layout: KeyLayout, binding: Binding): KeyLayout {
  const place = placeOf(binding);
  return { ...layout, changes: [...layout.changes.filter((c) => placeOf(c) !== place), binding] };
}

/** The layout with nothing in a place. */
export function unbind(layout: KeyLayout, place: Place): KeyLayout {
  const without = layout.changes.filter((c) => placeOf(c) !== placeOf(place));
  const first = FIRST_BINDINGS.some((b) => placeOf(b) === placeOf(place));
  const { device, control, room } = place;
  return { ...layout, changes: first ? [...without, { device, control, room, action: '', args: {} }] : without };
}

/** The layout with a place as it comes. */
export const asItComes = (layout: KeyLayout, place: Place): KeyLayout => ({
  ...layout,
  changes: layout.changes.filter((c) => placeOf(c) !== placeOf(place)),
});

/** Something that another binding of the same control means for a new one. */
export interface Conflict {
  binding: Binding;
  /** `taken`: it loses its key. `there`: in its room the key goes on meaning this. `hidden`: in this room it can no longer be reached by this key. */
  kind: 'taken' | 'there' | 'hidden';
  text: string;
}

const meaningWords = ({ action, args }: Binding): string => {
  const found = findAction(action);
  return found ? actionWords(found, args) : action;
};

const roomName = (room: KeyRoom): string => (room === 'all' ? 'every room' : ROOMS[room].name);

/** What binding a control in a room would collide with. */
export function conflictsOf(layout: KeyLayout, { device, control, room }: Place): Conflict[] {
  const rivals = bindingsOf(layout).filter((b) => b.device === device && b.control === control);
  return rivals.flatMap((binding): Conflict[] => {
    const words = meaningWords(binding);
    if (binding.room === room)
      return [{ binding, kind: 'taken', text: `It does “${words}” in ${roomName(room)} now, and would no longer.` }];
    if (room === 'all') return [{ binding, kind: 'there', text: `In ${roomName(binding.room)} it goes on doing “${words}”.` }];
    if (binding.room === 'all')
      return [{ binding, kind: 'hidden', text: `In ${roomName(room)} it would no longer do “${words}”, as in every other room.` }];
    return [];
  });
}
