/** The form of a binding: keys, MIDI, game pads, HID controllers and the panel on screen have the same one. */
import { AnyObject, Flag, Nested, OneOf, Text } from '../schema/fields';
import { type ActionArgs } from './action';
import { Travel } from './lever';
import { KEY_ROOMS, type KeyRoom } from './rooms';

/** Device of keys pressed on the computer's keyboard; the others are drivers of controllers. */
export const KEYBOARD = 'keyboard';

const DEVICES = [KEYBOARD, 'midi', 'gamepad', 'hid', 'panel'];

export class Binding {
  @OneOf(DEVICES, 'the keyboard, or the driver of a controller') device!: string;
  @Text(60, 'a chord of the keyboard, or a control as its driver names it', { min: 1 }) control!: string;
  @OneOf(KEY_ROOMS, 'where it counts') room!: KeyRoom;
  @Text(60, 'identity of the action; empty: does nothing, whatever it did at first') action!: string;
  @AnyObject('numbers and words that the action takes') args!: ActionArgs;
  @Nested(() => Travel, 'for levers: how their travel is read; without it, evenly', { optional: true }) travel?: Travel | undefined;
  @Flag('for levers: takes hold only where the thing stands', { optional: true }) pickUp?: boolean | undefined;
}
