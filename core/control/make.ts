/** Makes actions, so that a room's table of them is short to read. */
import { type Action, type ActionArgs, type Hands, type Meaning, type Param, type PressAction } from './action';
import { type KeyRoom } from './rooms';

type Extra = Partial<Pick<PressAction, 'params' | 'repeats' | 'lit' | 'release'>>;

/** Makers of the actions of one group of a room. */
export function actionsOf(room: KeyRoom, group: string) {
  const press = (
    id: string,
    does: string,
    short: string,
    run: (hands: Hands, args: ActionArgs) => Meaning,
    extra: Extra = {},
  ): PressAction => ({ id, room, group, does, short, takes: 'press', run, ...extra });
  return {
    press,
    /** Something the room does itself. */
    act: (id: string, does: string, short: string, extra: Extra = {}): Action =>
      press(id, does, short, (_, args) => ({ kind: 'act', id, args }), extra),
  };
}

/** A whole number from `min` to `max`; `nameIn` says what the show calls the thing with it. */
export const number = (
  name: string,
  label: string,
  min: number,
  max: number,
  nameIn?: Extract<Param, { kind: 'number' }>['nameIn'],
): Param => ({ name, label, kind: 'number', min, max, ...(nameIn && { nameIn }) });

/** One of a few words. */
export const word = (name: string, label: string, words: readonly string[], names: Readonly<Record<string, string>> = {}): Param => ({
  name,
  label,
  kind: 'word',
  words,
  names,
});

/** The deck; without it, the one that is worked on. */
export const DECK: Param = { name: 'deck', label: 'Deck', optional: true, kind: 'number', min: 1, max: 2 };

/** Deck that an action works on: its own, or the chosen one. */
export const deckOf = ({ chosen }: Hands, { deck }: ActionArgs): 1 | 2 => (deck === 1 || deck === 2 ? deck : chosen.deck);
