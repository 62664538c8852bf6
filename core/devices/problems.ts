/** What is wrong with a message to a device, before it is sent. */
import { CommandError } from '../commands/command';
import { type DeviceKind, MOST_SAID } from './document';
import { MidiError, readMidi } from './midi-words';
import { encodeOsc, OscError } from './osc';
import { readArguments } from './osc-words';

/** A message as it is sent, its holes filled. */
export interface Outgoing {
  method: string;
  path: string;
  text: string;
}

/** Why a filled message cannot be sent to a device of this kind; null when it can. */
export function sayProblem(kind: DeviceKind, { path, text }: Outgoing): string | null {
  try {
    if (text.length > MOST_SAID * 4) return `It has ${text.length} characters when it is filled; ${MOST_SAID * 4} are the most.`;
    if (kind === 'osc') encodeOsc({ address: path, args: readArguments(text) });
    if (kind === 'midi') readMidi(text);
    if (kind === 'http' && /\s/.test(path)) return 'A path has no blanks: write %20 for one.';
    if (kind !== 'http' && kind !== 'osc' && text === '') return 'It says nothing yet.';
    return null;
  } catch (error) {
    if (error instanceof OscError || error instanceof MidiError) return error.message;
    throw error;
  }
}

/** @throws CommandError when a message cannot be sent to a device of this kind. */
export function checkSaid(kind: DeviceKind, out: Outgoing): void {
  const problem = sayProblem(kind, out);
  if (problem !== null) throw new CommandError('bad-message', problem, kind === 'osc' ? 'path' : 'text');
}
