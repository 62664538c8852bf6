/**
 * What a pass allows: the server holds every command against it. What a room may be worked with is said here, once, for each domain of commands.
 */
import { ROOM_IDS, ROOMS, type RoomId } from '../control/rooms';
import { type Refusal } from '../desk/execute';
import { findCommand } from '../desk/registry';
import { isRecord } from '../schema/record';
import { mayWork, type Pass, passWords } from './pass';

/**
 * The rooms in which each domain of commands is worked; who may work one of them may send it. Undo and redo belong to every room that may be
 * worked at all.
 */
const WORKED_IN: Readonly<Record<string, readonly RoomId[]>> = {
  picture: ['desk'],
  transition: ['desk'],
  source: ['desk'],
  group: ['desk'],
  media: ['desk'],
  lane: ['desk', 'graphics'],
  tableau: ['desk', 'graphics'],
  seat: ['desk', 'layouts', 'guests'],
  guest: ['guests'],
  gathering: ['guests'],
  cast: ['guests', 'desk'],
  audience: ['guests'],
  comment: ['guests'],
  poll: ['guests'],
  layout: ['layouts'],
  preset: ['layouts'],
  box: ['layouts'],
  framing: ['layouts'],
  style: ['layouts'],
  graphic: ['graphics'],
  entry: ['graphics'],
  field: ['graphics'],
  element: ['graphics'],
  finish: ['graphics'],
  clock: ['graphics', 'desk'],
  ticker: ['graphics'],
  sheet: ['graphics'],
  formula: ['graphics'],
  font: ['graphics'],
  deck: ['replay'],
  mark: ['replay'],
  clip: ['replay'],
  reel: ['replay'],
  roll: ['replay', 'desk'],
  replay: ['replay'],
  sound: ['sound'],
  listener: ['sound'],
  talkback: ['sound', 'guests'],
  loudness: ['sound'],
  output: ['output'],
  macro: ['automation'],
  step: ['automation'],
  run: ['automation', 'desk'],
  automation: ['automation'],
  trigger: ['automation'],
  order: ['automation'],
  device: ['automation'],
  message: ['automation'],
  page: ['automation'],
  button: ['automation'],
  screen: ['screens'],
  surface: ['screens'],
  layer: ['screens'],
  show: ['settings'],
  history: ROOM_IDS,
};

/** The rooms in which a command is worked; none for one that nobody may send from elsewhere. */
export function roomsOfCommand(type: string): readonly RoomId[] {
  const domain = type.split('.')[0] ?? '';
  const spec = findCommand(type);
  return spec && !spec.atHost && !spec.fromEngine && Object.hasOwn(WORKED_IN, domain) ? (WORKED_IN[domain] ?? []) : [];
}

/** Why commands may not be sent with a pass; null when they may. One that is not allowed keeps all of them back. */
export function refusedBy(pass: Pass, commands: readonly unknown[]): Refusal | null {
  for (const [index, command] of commands.entries()) {
    const type = isRecord(command) && typeof command.type === 'string' ? command.type : '';
    const spec = findCommand(type);
    // What there is not, the host refuses in its own words.
    if (!spec) continue;
    const rooms = roomsOfCommand(type);
    const place = commands.length > 1 ? { index } : {};
    if (rooms.length === 0)
      return { code: 'only-here', message: `“${spec.title}” is done at the window that runs the show, by hand.`, ...place };
    // Another's step may be of any room.
    const others = rooms === ROOM_IDS && isRecord(command) && isRecord(command.args) && command.args.anyway === true;
    if (others ? rooms.every((r) => mayWork(pass, r)) : rooms.some((r) => mayWork(pass, r))) continue;
    const where = others ? 'every room' : rooms === ROOM_IDS ? 'a room to work in' : rooms.map((r) => ROOMS[r].name).join(' or ');
    return {
      code: 'no-right',
      message: `“${spec.title}” needs a pass for ${where}; this one is for ${passWords(pass)}. Whoever runs the show can give it.`,
      ...place,
    };
  }
  return null;
}
