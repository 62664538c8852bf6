/** A person's hands: layouts of keys, and what stands at hand. Kept in the browser, exported and imported as JSON (docs/formats.md). */
import { check } from '../schema/check';
import { Id, ListOf, OneOf, SomeOf, Whole, Wholes } from '../schema/fields';
import { argsProblem } from './action';
import { findAction } from './actions';
import { type Binding, KEYBOARD } from './binding';
import { chordProblem } from './chord';
import { FIRST_LAYOUT, KeyLayout } from './key-layout';
import { ROOM_IDS, type RoomId } from './rooms';

export const MOST_LAYOUTS = 30;
export const MOST_AT_HAND = 6;
export const MOST_SPEEDS = 6;
/** Characters of a file that is read at all. */
const LONGEST = 2_000_000;

export class HandsFile {
  @OneOf(['bivoca-hands'], 'says what this is') format!: 'bivoca-hands';
  @Whole(1, 1, 'version of this form') version!: 1;
  @Id('layout of keys in use') layoutId!: string;
  @ListOf(() => KeyLayout, MOST_LAYOUTS, 'layouts of keys') layouts!: readonly KeyLayout[];
  @SomeOf(ROOM_IDS, 'rooms that stand in the bar by name') rooms!: readonly RoomId[];
  @Whole(0, MOST_AT_HAND, 'transitions that stand on the rail: so many of the list') transitionsAtHand!: number;
  @Wholes(MOST_SPEEDS, 1, 200, 'speeds that stand beside the decks, per cent') speeds!: readonly number[];
}

/** Hands of somebody who has chosen nothing. */
export const FIRST_HANDS: HandsFile = {
  format: 'bivoca-hands',
  version: 1,
  layoutId: FIRST_LAYOUT.id,
  layouts: [FIRST_LAYOUT],
  // As many as fit at the usual width: Guests is put into the bar by whoever has some, and is reached by its key and the list of all.
  rooms: ROOM_IDS.filter((room) => room !== 'guests'),
  transitionsAtHand: 2,
  speeds: [25, 50, 100],
};

/** A file that is no hands, with the place at fault. */
export class HandsError extends Error {}

/** What is wrong with a binding beyond its form; null when nothing is. */
function bindingProblem({ device, control, action, args }: Binding): string | null {
  const chord = device === KEYBOARD ? chordProblem(control) : null;
  if (chord !== null) return chord;
  if (action === '') return null;
  const found = findAction(action);
  if (!found) return `nothing is called "${action}".`;
  if (device === KEYBOARD && found.takes !== 'press') return `${action} wants a wheel or a lever, not a key.`;
  const problem = argsProblem(found, args);
  return problem && `${problem}.`;
}

/**
 * Reads what was written by `writeHands`.
 * @throws HandsError that names the place, the cause and what it should be.
 */
export function readHands(json: string): HandsFile {
  if (json.length > LONGEST) throw new HandsError('This file is far too large for layouts of keys.');
  let raw: unknown;
  try {
    raw = JSON.parse(json);
  } catch {
    throw new HandsError('This is not JSON. Choose a file that was exported here.');
  }
  const mark = raw as { format?: unknown; version?: unknown } | null;
  if (mark?.format !== 'bivoca-hands') throw new HandsError('This file holds no layouts of keys: its format mark is missing.');
  if (typeof mark.version === 'number' && mark.version > 1)
    throw new HandsError('This file is from a newer Bivoca. Update Bivoca to read it.');
  const [fault] = check(HandsFile, raw);
  if (fault) throw new HandsError(`${fault.path} ${fault.message}.`);
  const hands = raw as HandsFile;
  for (const [l, { changes }] of hands.layouts.entries())
    for (const [i, binding] of changes.entries()) {
      const problem = bindingProblem(binding);
      if (problem !== null) throw new HandsError(`layouts[${l}].changes[${i}]: ${problem}`);
    }
  // The first layout stays as it comes, whatever a file says.
  const layouts = [FIRST_LAYOUT, ...hands.layouts.filter((l) => l.id !== FIRST_LAYOUT.id)];
  const ids = layouts.map((l) => l.id);
  if (new Set(ids).size < ids.length) throw new HandsError('layouts: two have the same identity.');
  if (!ids.includes(hands.layoutId)) throw new HandsError('layoutId names no layout of the file.');
  return { ...hands, layouts };
}

/** The file as it is exported. */
export const writeHands = (hands: HandsFile): string => JSON.stringify(hands, null, 2);

/** The layout of keys in use. */
export const layoutInUse = ({ layouts, layoutId }: HandsFile): KeyLayout => layouts.find((l) => l.id === layoutId) ?? FIRST_LAYOUT;

/** `hands` with the layout in use changed; the first one stays as it comes, so a copy of it is made. */
export function changeLayout(hands: HandsFile, change: (layout: KeyLayout) => KeyLayout, newId: string): HandsFile {
  const now = layoutInUse(hands);
  if (now.id !== FIRST_LAYOUT.id) {
    return { ...hands, layouts: hands.layouts.map((l) => (l.id === now.id ? change(l) : l)) };
  }
  const own = change({ ...now, id: newId, name: nameFor(hands) });
  return { ...hands, layoutId: newId, layouts: [...hands.layouts, own] };
}

/** "My keys", with a number where that is taken. */
export function nameFor({ layouts }: HandsFile, wish = 'My keys'): string {
  const taken = new Set(layouts.map((l) => l.name));
  let name = wish;
  for (let n = 2; taken.has(name); n += 1) name = `${wish} ${n}`;
  return name;
}
