/** Puts the stream of a guest into the show: picture to the mixer, sound to the desk, each as long as it is there. */
import { type DriverHandle, type EngineFormat, type SourceLink } from '../capture/driver';
import { pumpFrames } from '../capture/frame-pump';

/** A source of a guest, which takes whatever stream its guest has now. */
export class GuestSource {
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
    private readonly nothing = 'nobody is here',
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
