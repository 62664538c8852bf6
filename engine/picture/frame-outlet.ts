/**
 * A port that frames leave by. Whoever takes them says so with a message of its own, and what has not been taken is bounded: a page or a
 * worker that stands still costs frames there, never memory here.
 */

import { type FrameMessage } from './messages';

/** Frames that may be on their way to a window: it shows the newest. */
export const WINDOW_FRAMES = 2;
/** Frames that may be on their way to a recorder: a second of a usual show. */
export const RECORDER_FRAMES = 25;

export class FrameOutlet {
  /** Frames that were given up because nobody took those before. */
  refused = 0;
  private under = 0;

  constructor(
    private readonly port: MessagePort,
    private readonly limit: number,
  ) {
    port.onmessage = () => (this.under = Math.max(0, this.under - 1));
  }

  /** Takes `message.frame` over and sends it; closes it when too many wait already. */
  send(message: FrameMessage): void {
    if (this.under >= this.limit) {
      this.refused += 1;
      message.frame.close();
      return;
    }
    this.under += 1;
    this.port.postMessage(message, [message.frame]);
  }

  close(): void {
    this.port.close();
  }
}

/** Takes the frames of an outlet: `receive` owns each, and the outlet is told. */
export function takeFrames(port: MessagePort, receive: (message: FrameMessage) => void): void {
  port.onmessage = ({ data }: MessageEvent<FrameMessage>) => {
    port.postMessage(null);
    receive(data);
  };
}
