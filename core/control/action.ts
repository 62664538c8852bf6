/** What an action is: anything that a key, pad, wheel or lever can do, in any room. Pure: it says what is to be sent, and sends nothing. */
import { type Desk } from '../desk/air';
import { type Show } from '../desk/show';
import { type KeyRoom, type RoomId } from './rooms';

/** What a person has chosen in the rooms: actions work on it. */
export interface Chosen {
  room: RoomId;
  /** Deck that is worked on. */
  deck: 1 | 2;
  /** Clips, in playing order. */
  clips: readonly string[];
  /** Reel that copies go to. */
  targetReel: string;
  /** Channel or bus; null for none. */
  strip: string | null;
  /** Channels of the bank that is seen, in order. */
  bank: readonly string[];
  /** The matrix of sends is in view, instead of the strips. */
  matrix: boolean;
  layout: string | null;
  boxes: readonly string[];
  /** Graphic that is open, its chosen entry, its chosen elements, and the lane that entries go to. */
  graphic: string | null;
  entry: string | null;
  elements: readonly string[];
  graphicLane: string | null;
  /** Guest. */
  guest: string | null;
  /** Comment that has come in. */
  comment: string | null;
}

/** What actions see. */
export interface Hands {
  desk: Desk;
  /** Frame of the show clock. */
  frame: number;
  chosen: Chosen;
}

/** What a binding says beyond the action: which angle, which deck. */
export type ActionArgs = Readonly<Record<string, string | number>>;

/** What an action comes to now. */
export type Meaning =
  | { kind: 'command'; type: string; args: Record<string, unknown> }
  /** Something that the room itself does, such as choosing. */
  | { kind: 'act'; id: string; args: ActionArgs }
  /** Cannot be done, in words. */
  | { kind: 'refusal'; text: string };

export const command = (type: string, args: Record<string, unknown> = {}): Meaning => ({ kind: 'command', type, args });
export const refuse = (text: string): Meaning => ({ kind: 'refusal', text });

/** An argument of an action. A place or number is a whole number; a word is one of a list. */
export type Param = {
  name: string;
  /** For people, in the editor of keys. */
  label: string;
  optional?: boolean;
} & (
  | {
      kind: 'number';
      min: number;
      max: number;
      /** What the show calls the thing with this number. */
      nameIn?: (show: Show, value: number) => string | undefined;
    }
  | {
      kind: 'word';
      words: readonly string[];
      /** What they are called, where that is not the word itself. */ names?: Readonly<Record<string, string>>;
    }
);

interface ActionBase {
  /** Stable: stands in stored bindings. */
  id: string;
  /** Where its first keys count, and under what it is listed. */
  room: KeyRoom;
  group: string;
  /** What it does; `{name}` stands for an argument. */
  does: string;
  /** A word or two for the drawing of the keys; `{name}` stands for an argument. */
  short: string;
  params?: readonly Param[];
  /** Goes on while its key is held down. */
  repeats?: boolean;
  /** Lamp of a key that does this: true when it is lit. */
  lit?: (hands: Hands, args: ActionArgs) => boolean;
}

/** Does something when pressed; some do something else when let go. */
export interface PressAction extends ActionBase {
  takes: 'press';
  run: (hands: Hands, args: ActionArgs) => Meaning;
  release?: (hands: Hands, args: ActionArgs) => Meaning;
}

/** Turned by a wheel without ends: clicks, forwards positive; 0 when the wheel is only touched. */
export interface TurnAction extends ActionBase {
  takes: 'clicks';
  turn: (hands: Hands, args: ActionArgs, clicks: number) => Meaning;
}

/** Moved by a lever, fader, pedal or knob with ends. */
export interface LeverAction extends ActionBase {
  takes: 'level';
  /** From 0 to 1, or from −1 to 1 with its rest in the middle. */
  span: 'one' | 'both';
  move: (hands: Hands, args: ActionArgs, level: number) => Meaning;
  /** Where the thing stands now, in the lever's span, for pick-up; null where there is nothing to pick up. */
  present: (hands: Hands, args: ActionArgs) => number | null;
}

export type Action = PressAction | TurnAction | LeverAction;

/** What a value of an argument is called: in `show`, where that is known. */
const called = (params: readonly Param[], name: string, value: string | number | undefined, show: Show | null): string => {
  const param = params.find((p) => p.name === name);
  if (param?.kind === 'number' && show && typeof value === 'number') return param.nameIn?.(show, value) ?? String(value);
  return (param?.kind === 'word' && param.names?.[String(value)]) || String(value ?? '');
};

const fill = (text: string, args: ActionArgs, params: readonly Param[], show: Show | null): string =>
  text.replace(/\{(\w+)\}/g, (_, name: string) => (Object.hasOwn(args, name) ? called(params, name, args[name], show) : ''));

/** What an action with its arguments does, in words; with `show`, by the names of things there. */
export function actionWords({ does, params = [] }: Action, args: ActionArgs, show: Show | null = null): string {
  const deck = params.some((p) => p.name === 'deck') && args.deck !== undefined && !does.includes('{deck}') ? ` (deck ${args.deck})` : '';
  return fill(does, args, params, show).replace(/ +/g, ' ').trim() + deck;
}

/** The same in a word or two. */
export const actionShort = ({ short, params = [] }: Action, args: ActionArgs, show: Show | null = null): string =>
  fill(short, args, params, show).trim();

/** What is wrong with the arguments of a binding; null when nothing is. */
export function argsProblem({ id, params = [] }: Action, args: ActionArgs): string | null {
  const unknown = Object.keys(args).find((name) => !params.some((p) => p.name === name));
  if (unknown !== undefined) return `${id} takes no "${unknown}"`;
  for (const param of params) {
    const value = Object.hasOwn(args, param.name) ? args[param.name] : undefined;
    if (value === undefined) {
      if (!param.optional) return `${id} needs its ${param.name}`;
    } else if (param.kind === 'number') {
      if (typeof value !== 'number' || !Number.isInteger(value) || value < param.min || value > param.max)
        return `${param.name} of ${id} goes from ${param.min} to ${param.max}`;
    } else if (!param.words.includes(String(value))) return `${param.name} of ${id} is one of ${param.words.join(', ')}`;
  }
  return null;
}

/** A number of the arguments; `otherwise` where there is none. */
export const numberArg = (args: ActionArgs, name: string, otherwise = 1): number => {
  const value = args[name];
  return typeof value === 'number' ? value : otherwise;
};
