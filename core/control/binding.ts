/** The form of a binding: keys, MIDI, game pads, HID controllers and the panel on screen have the same one. */
import { type ActionArgs } from './action';
import { type Travel } from './lever';
import { type KeyRoom } from './rooms';

/** Device of keys pressed on the computer's keyboard; the others are drivers of controllers. */
export const KEYBOARD = 'keyboard';

export interface Binding {
  /** `keyboard`, or the driver of a controller: `midi`, `gamepad`, `hid`, `panel`. */
  device: string;
  /** A chord of the keyboard, or a control as its driver names it. */
  control: string;
  room: KeyRoom;
  /** Identity of the action; empty: does nothing, whatever it did at first. */
  action: string;
  args: ActionArgs;
  /** For levers: how their travel is read. Without it, evenly. */
  travel?: Travel | undefined;
  /** For levers: takes hold only where the thing stands. */
  pickUp?: boolean | undefined;
}
