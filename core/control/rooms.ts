/** The rooms of the app: said once, for the bar, the keys and the finder. */

/** Run: worked while a show is on. Build: where it is prepared. */
export type RoomKind = 'run' | 'build';

interface RoomTraits {
  name: string;
  kind: RoomKind;
  /** What one does there, for the finder and the list of rooms. */
  about: string;
}

/** Pages of the room Automation. */
export const AUTOMATION_PAGES = ['macros', 'order', 'triggers', 'devices', 'buttons'] as const;
export type AutomationPage = (typeof AUTOMATION_PAGES)[number];

/** In the order of the bar; the identity is also the room's address. */
export const ROOMS = {
  desk: { name: 'Desk', kind: 'run', about: 'Switch the show' },
  replay: { name: 'Replay', kind: 'run', about: 'Decks, clips, reels' },
  sound: { name: 'Sound', kind: 'run', about: 'Strips, buses, routing' },
  graphics: { name: 'Graphics', kind: 'run', about: 'Entries, clocks, drawing' },
  guests: { name: 'Guests', kind: 'run', about: 'Green room, seats and casts' },
  output: { name: 'Output', kind: 'run', about: 'Recording, stream, the log' },
  layouts: { name: 'Layouts', kind: 'build', about: 'Boxes, framings, styles, seats' },
  screens: { name: 'Screens', kind: 'build', about: 'Outputs, their windows, test pictures' },
  automation: { name: 'Automation', kind: 'build', about: 'Macros, running order, triggers' },
  settings: { name: 'Settings', kind: 'build', about: 'The show, keys and controllers' },
} as const satisfies Record<string, RoomTraits>;

export type RoomId = keyof typeof ROOMS;

/** Where a key counts: in one room, or in every room that gives it no meaning of its own. */
export type KeyRoom = RoomId | 'all';

export const ROOM_IDS = Object.keys(ROOMS) as readonly RoomId[];

/** Where a key may count. */
export const KEY_ROOMS: readonly KeyRoom[] = ['all', ...ROOM_IDS];

export const isRoom = (id: string): id is RoomId => Object.hasOwn(ROOMS, id);

/** The room of an address such as `/show/x/replay`; the Desk where it names none. */
export function roomOfPath(path: string): RoomId {
  const last = path.split('/').filter(Boolean).at(-1) ?? '';
  return isRoom(last) ? last : 'desk';
}
