/** What a command is. Every change of show or air is one; buttons, keys, the remote and tests all send these. */
import { type ErrorCode } from './codes';
import { type Constructor } from '../schema/fields';
import { type Desk } from '../desk/air';

export interface CommandContext {
  /** The next frame the mixer will draw: the moment at which the command takes effect. */
  frame: number;
  /** A new identity, never used before. */
  newId: () => string;
}

/** A refusal: nothing has changed. `code` is for programs, `message` for people, `field` names the argument at fault. */
export class CommandError extends Error {
  constructor(
    readonly code: ErrorCode,
    message: string,
    readonly field?: string,
  ) {
    super(message);
  }
}

export interface CommandSpec<A extends object = object> {
  /** `domain.verb`. */
  type: string;
  /** Short name for people and for the command finder. */
  title: string;
  /** What it does as a sentence of a list, `{name}` standing for an argument: "Show {lane}". Without it, its title and arguments are said. */
  says?: string;
  /** One or two sentences for the reference. */
  about: string;
  args: Constructor<A>;
  /** Edits of the document with the same key within a second make one step of undo. */
  mergeKey?: (args: A) => string;
  /** Sent by the engine alone, of what has happened: people are not offered it. */
  fromEngine?: boolean;
  /** It works on what macros and triggers are, or on how they run: it is not recorded for another. */
  unrecorded?: true;
  /** It names places outside that the server will reach: only who sits at the show may, never a panel or the remote. */
  atHost?: true;
  /** It changes only what whoever sends it hears: a panel keeps it to its own person. */
  personal?: true;
  /** What it changes comes from outside: it is no step of undo. */
  outside?: true;
  /** True when a person must hold the key or button for it: the audience would see it at once, or it ends an output. */
  hold?: (desk: Desk, args: A) => boolean;
  /** Goes through the history instead of changing anything itself: `run` refuses, as it must stand alone. */
  step?: 'undo' | 'redo';
  /** Changes the draft, or throws CommandError. Returns what the caller may want to know, such as a new id. */
  run: (desk: Desk, args: A, context: CommandContext) => Record<string, unknown> | void;
}

/** A command as it is sent. */
export interface Command {
  type: string;
  args?: Record<string, unknown>;
}

/** What a command does, for people: what it answers is for programs. */
export const aboutForPeople = ({ about }: CommandSpec): string => about.replace(/ ?Returns [^.]*\./g, '');

/** For commands without arguments. */
export class NoArgs {}

/** Types a spec by its argument class. */
export const defineCommand = <A extends object>(spec: CommandSpec<A>): CommandSpec =>
  // Arguments are checked against `spec.args` before `run` sees them.
  spec as unknown as CommandSpec;
