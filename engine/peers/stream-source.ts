/** Puts streams that come by connections into the show: picture to the mixer, sound to the desk, each as long as it is there. */
import { type SourceKind } from '#core/show/source';
import { type Driver, type DriverHandle, type EngineFormat, type SourceLink } from '../capture/driver';
import { pumpFrames } from '../capture/frame-pump';

/** A source that takes whatever stream there is for it now. */
class StreamSource {
  private video: MediaStreamTrack | undefined;
  private sound: MediaStreamTrack | undefined;
  private endPump: (() => void) | null = null;
  /** Without an element that plays it, Chromium gives no sound of a connection to the desk. */
  private sink: HTMLAudioElement | null = null;

  constructor(
    private readonly link: SourceLink,
    private readonly format: EngineFormat,
    private readonly gone: () => void,
    /** What is said while nothing comes. */
    private readonly nothing: string,
  ) {
    link.health('waiting', nothing);
  }

  show(stream: MediaStream | null): void {
    const [video] = stream?.getVideoTracks() ?? [];
    if (video !== this.video) {
      this.endPump?.();
      this.endPump = null;
      this.video = video;
      if (video)
        this.endPump = pumpFrames(video as MediaStreamVideoTrack, this.link.framePort(), this.format.clock, () =>
          this.link.health('lost', 'it sends no pictures now'),
        );
    }
    const [sound] = stream?.getAudioTracks() ?? [];
    if (sound !== this.sound) {
      this.silence();
      this.sound = sound;
      if (stream && sound) this.hear(stream);
    }
    this.link.health(stream ? 'live' : 'waiting', stream ? '' : this.nothing);
  }

  private hear(stream: MediaStream): void {
    this.sink = new Audio();
    this.sink.srcObject = stream;
    this.sink.muted = true;
    void this.sink.play().catch(() => undefined);
    this.link.soundStream(stream);
  }

  private silence(): void {
    if (this.sink) this.sink.srcObject = null;
    this.sink = null;
  }

  get handle(): DriverHandle {
    return {
      stop: () => {
        this.endPump?.();
        this.silence();
        this.gone();
      },
    };
  }
}

/** The sources of a kind that take streams, and the streams that there are for them: either may come first. */
export class StreamSources<K extends SourceKind> {
  private readonly sources = new Map<string, StreamSource>();
  private readonly streams = new Map<string, MediaStream>();

  /** `nothing` is said while nothing comes. */
  constructor(private readonly nothing: string) {}

  readonly driver: Driver<K> = ({ id }, _air, link, format) => {
    const made = new StreamSource(link, format, () => this.sources.get(id) === made && this.sources.delete(id), this.nothing);
    this.sources.set(id, made);
    const stream = this.streams.get(id);
    if (stream) made.show(stream);
    return made.handle;
  };

  has(id: string): boolean {
    return this.sources.has(id);
  }

  /** What comes for a source now; null for nothing. */
  of(id: string): MediaStream | null {
    return this.streams.get(id) ?? null;
  }

  show(id: string, stream: MediaStream | null): void {
    if (stream) this.streams.set(id, stream);
    else this.streams.delete(id);
    this.sources.get(id)?.show(stream);
  }
}

/** How long a connection that has ended is let run out, milliseconds. */
const LAST_FRAME_MS = 300;

/** Ends a connection after the frame that is on its way from it: ended before, it would leave that one open. */
export const letRunOut = (connection: { close: () => void }): void => void setTimeout(() => connection.close(), LAST_FRAME_MS);
