/** The shape of every hands-on controller, real or simulated. */
import { type ControlEvent } from '#core/control/control';

export interface ControlDriver {
  /** Stands in bindings. */
  id: string;
  /** For people. */
  label: string;
  /** Listens; `state` says in words what is connected, or why nothing is. Returns how to end. */
  open(listen: (event: ControlEvent) => void, state: (words: string) => void): () => void;
  /** Lights the lamp of a control, or puts it out. False when nothing with a lamp is connected: it is asked again. */
  light?: (control: string, on: boolean) => boolean;
  /** Asks for a device, where the browser wants a press for it. */
  choose?: () => Promise<void>;
}
