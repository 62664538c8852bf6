/** Puts the stream of a guest into the show: picture to the mixer, sound to the desk, each as long as it is there. */
import { type DriverHandle, type EngineFormat, type SourceLink } from '../capture/driver';
import { pumpFrames } from '../capture/frame-pump';

/** A source of a guest, which takes whatever stream its guest has now. */
export class GuestSource {
  private stream: MediaStream | null = null;
  private endPump: (() => void) | null = null;
  /** Without an element that plays it, Chromium gives no sound of a connection to the desk. */
  private sink: HTMLAudioElement | null = null;

  constructor(
    private readonly link: SourceLink,
    private readonly format: EngineFormat,
    private readonly gone: () => void,
  ) {
    link.health('waiting', 'nobody is here yet');
  }

  show(stream: MediaStream | null): void {
    const key = (s: MediaStream | null) =>
      s &&
      s
        .getTracks()
        .map((t) => t.id)
        .join();
    if (stream === this.stream && key(stream) === key(this.stream) && this.endPump) return;
    this.clear();
    this.stream = stream;
    if (!stream) return this.link.health('waiting', 'nobody is here now');
    const [video] = stream.getVideoTracks();
    if (video)
      // A copy: what is pumped is stopped in the end, and the connection's own track must be there for the next.
      this.endPump = pumpFrames(video.clone(), this.link.framePort(), this.format.clock, () =>
        this.link.health('lost', 'it sends no pictures now'),
      );
    if (stream.getAudioTracks().length > 0) {
      this.sink = new Audio();
      this.sink.srcObject = stream;
      this.sink.muted = true;
      void this.sink.play().catch(() => undefined);
      this.link.soundStream(stream);
    }
    this.link.health('live');
  }

  private clear(): void {
    this.endPump?.();
    this.endPump = null;
    if (this.sink) this.sink.srcObject = null;
    this.sink = null;
  }

  get handle(): DriverHandle {
    return {
      stop: () => {
        this.clear();
        this.gone();
      },
    };
  }
}
