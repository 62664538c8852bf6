/** The shape of every hands-on controller, real or simulated. */
import { type ControlEvent } from '#core/control/control';

export interface ControlDriver {
  /** Stands in bindings. */
  id: string;
  /** For people. */
  label: string;
  /** Listens; `state` says in words what is connected, or why nothing is. Returns how to end. */
  open(listen: (event: ControlEvent) => void, state: (words: string) => void): () => void;
  /** Asks for a device, where the browser wants a press for it. */
  choose?: () => Promise<void>;
}
