/** What the finder finds: rooms, actions with their keys, pictures, commands. */
import { type ActionArgs, actionWords } from '#core/control/action';
import { ACTIONS, findAction } from '#core/control/actions';
import { KEYBOARD } from '#core/control/binding';
import { bindingsOf, keyNames, type KeyLayout } from '#core/control/key-layout';
import { type RoomId, ROOM_IDS, ROOMS } from '#core/control/rooms';
import { aboutForPeople, type CommandSpec } from '#core/commands/command';
import { COMMANDS, findCommand } from '#core/desk/registry';
import { type Show } from '#core/desk/show';
import { fieldsOf } from '#core/schema/fields';
import { isAskable } from './argument-choices';

export interface Entry {
  /** Unlike every other. */
  id: string;
  title: string;
  /** Where it belongs, or what it does. */
  about: string;
  key: string;
  run: { kind: 'action'; id: string; args: ActionArgs } | { kind: 'command'; spec: CommandSpec } | { kind: 'picture'; id: string };
}

/** Actions that a key is bound to, with those arguments, and those that take none. */
function actions(layout: KeyLayout, room: RoomId, show: Show): Entry[] {
  const entries = new Map<string, Entry>();
  const add = (id: string, args: ActionArgs) => {
    const action = findAction(id);
    if (action?.takes !== 'press') return;
    const group = id === 'go' ? ROOMS[args.room as RoomId].about : action.group;
    const where = action.room === 'all' ? group : `${ROOMS[action.room].name} · ${action.group}`;
    const title = actionWords(action, args, show);
    const name = `${id} ${title}`;
    if (entries.has(name)) return;
    entries.set(name, { id: name, title, about: where, key: keyNames(layout, room, id, args)[0] ?? '', run: { kind: 'action', id, args } });
  };
  for (const room of ROOM_IDS) add('go', { room });
  for (const action of ACTIONS) if (!action.params?.some((p) => !p.optional)) add(action.id, {});
  for (const b of bindingsOf(layout)) if (b.device === KEYBOARD) add(b.action, b.args);
  return [...entries.values()];
}

/** Every picture that can be put into Next. */
function pictures(show: Show): Entry[] {
  return [show.sources, show.framings, show.layouts, show.presets, show.graphics.list, show.guests.gatherings]
    .flat()
    .map(({ id, name, number }) => ({
      id: `picture ${id}`,
      title: `${name} to Next`,
      about: number === null ? 'Picture' : `Picture ${number}`,
      key: '',
      run: { kind: 'picture', id },
    }));
}

/** What can be asked for: a thing of the show, a choice, a number, a text. A whole of many parts is made in its room instead. */
const askable = (spec: CommandSpec): boolean => fieldsOf(spec.args).every((f) => f.optional || isAskable(f));

/** Commands that people give; what an action does already is not said twice. */
function commands(): Entry[] {
  const covered = new Set(ACTIONS.map((a) => a.id).filter((id) => findCommand(id)));
  return COMMANDS.filter((spec) => !spec.fromEngine && !covered.has(spec.type) && askable(spec)).map((spec) => ({
    id: spec.type,
    title: spec.title,
    about: aboutForPeople(spec),
    key: '',
    run: { kind: 'command', spec },
  }));
}

/** Everything that can be found, in the order of the list. */
export const finderEntries = (show: Show, layout: KeyLayout, room: RoomId): Entry[] => [
  ...actions(layout, room, show),
  ...pictures(show),
  ...commands(),
];
