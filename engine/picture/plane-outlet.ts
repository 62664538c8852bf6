/**
 * A port that pictures leave by for another window. Frames cannot leave the process of a show, their bytes can; so each is copied once, in the
 * mixer's thread, and never waits for the page.
 */
import { type FrameMessage } from './messages';

/** A picture as bytes. */
export interface PlanesMessage {
  planes: ArrayBuffer;
  init: VideoFrameBufferInit;
}

/** What a window says: that it has taken a picture, or that it wants no more. */
export type FromViewer = 'taken' | 'end';

/** A window that takes nothing for so long is gone, milliseconds. */
const GONE_MS = 10_000;

export class PlaneOutlet {
  private under = 0;
  private takenAt = performance.now();
  private ended = false;

  constructor(
    private readonly port: MessagePort,
    private readonly limit: number,
    /** The window has gone, or wants no more. */
    private readonly gone: () => void,
  ) {
    port.onmessage = ({ data }: MessageEvent<FromViewer>) => {
      this.under = Math.max(0, this.under - 1);
      this.takenAt = performance.now();
      if (data === 'end') this.end();
    };
  }

  private end(): void {
    if (this.ended) return;
    this.ended = true;
    this.gone();
  }

  /** Takes `frame` over and sends its bytes; leaves it out when too many wait already. */
  send({ frame }: Pick<FrameMessage, 'frame'>): void {
    const now = performance.now();
    if (this.under >= this.limit) {
      frame.close();
      if (now - this.takenAt > GONE_MS) this.end();
      return;
    }
    if (this.under === 0) this.takenAt = now;
    this.under += 1;
    void this.copy(frame);
  }

  private async copy(frame: VideoFrame): Promise<void> {
    try {
      const planes = new ArrayBuffer(frame.allocationSize());
      const layout = await frame.copyTo(planes);
      const init: VideoFrameBufferInit = {
        format: frame.format as VideoPixelFormat,
        codedWidth: frame.visibleRect?.width ?? frame.codedWidth,
        codedHeight: frame.visibleRect?.height ?? frame.codedHeight,
        timestamp: frame.timestamp,
        colorSpace: frame.colorSpace.toJSON(),
        layout,
      };
      this.port.postMessage({ planes, init } satisfies PlanesMessage, [planes]);
    } catch {
      // A picture that cannot be copied is left out: the next one comes.
      this.under -= 1;
    } finally {
      frame.close();
    }
  }

  close(): void {
    this.ended = true;
    this.port.close();
  }
}
