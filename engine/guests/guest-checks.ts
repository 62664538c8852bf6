/** Looks at what a guest sends: light of the picture, hum in the sound, and whether what is sent to them comes back. */
import { echoOf, humOf, lightOf } from '#core/guests/checks';
import { LevelRow } from './level-row';

/** Delays of an echo, blocks of levels: 0.08 to 1 s. */
const LEAST_LAG = 2;
const MOST_LAG = 25;
const WIDTH = 32;
const HEIGHT = 18;

export interface Found {
  /** Mains, Hz; null for no hum. */
  hum: number | null;
  echo: boolean;
  light: ReturnType<typeof lightOf>;
}

export class GuestChecks {
  private readonly sent = new LevelRow();
  private readonly back = new LevelRow();
  private analyser: AnalyserNode | null = null;
  private node: MediaStreamAudioSourceNode | null = null;
  private readonly sending: { node: MediaStreamAudioSourceNode; analyser: AnalyserNode } | null;
  private stream: MediaStream | null = null;
  private video: HTMLVideoElement | null = null;
  private readonly canvas = new OffscreenCanvas(WIDTH, HEIGHT);

  /** `mix` is what is sent to them; null for nothing. */
  constructor(
    private readonly context: AudioContext,
    mix: MediaStream | null,
  ) {
    this.sending = mix && mix.getAudioTracks().length > 0 ? this.listenTo(mix) : null;
  }

  private listenTo(stream: MediaStream): { node: MediaStreamAudioSourceNode; analyser: AnalyserNode } {
    const node = this.context.createMediaStreamSource(stream);
    const analyser = new AnalyserNode(this.context, { fftSize: 16_384, smoothingTimeConstant: 0.6 });
    node.connect(analyser);
    return { node, analyser };
  }

  /** What they send now; null for nothing. */
  look(stream: MediaStream | null): void {
    if (stream === this.stream) return;
    this.close();
    this.stream = stream;
    if (!stream) return;
    if (stream.getAudioTracks().length > 0) {
      const { node, analyser } = this.listenTo(stream);
      Object.assign(this, { node, analyser });
    }
    if (stream.getVideoTracks().length === 0) return;
    this.video = document.createElement('video');
    this.video.muted = true;
    this.video.srcObject = new MediaStream(stream.getVideoTracks());
    void this.video.play().catch(() => undefined);
  }

  /** Keeps how loud it has been since the last time: what is sent to them, and what comes. Call it several times a second. */
  hear(): void {
    const { currentTime, sampleRate } = this.context;
    this.sent.hear(this.sending?.analyser ?? null, currentTime, sampleRate);
    this.back.hear(this.analyser, currentTime, sampleRate);
  }

  found(): Found {
    return { hum: this.hum(), echo: echoOf(this.sent.levels, this.back.levels, LEAST_LAG, MOST_LAG) !== null, light: this.light() };
  }

  private hum(): number | null {
    if (!this.analyser) return null;
    const bins = new Float32Array(this.analyser.frequencyBinCount);
    this.analyser.getFloatFrequencyData(bins);
    return humOf(bins, this.context.sampleRate / this.analyser.fftSize);
  }

  private light(): Found['light'] {
    const context = this.video && this.video.videoWidth > 0 ? this.canvas.getContext('2d', { willReadFrequently: true }) : null;
    if (!context || !this.video) return '';
    context.drawImage(this.video, 0, 0, WIDTH, HEIGHT);
    const { data } = context.getImageData(0, 0, WIDTH, HEIGHT);
    // Luma as of ITU-R BT.709.
    return lightOf(
      Array.from(
        { length: WIDTH * HEIGHT },
        (_, i) => 0.2126 * (data[i * 4] ?? 0) + 0.7152 * (data[i * 4 + 1] ?? 0) + 0.0722 * (data[i * 4 + 2] ?? 0),
      ),
    );
  }

  /** They are gone. */
  end(): void {
    this.close();
    this.sending?.node.disconnect();
  }

  private close(): void {
    this.node?.disconnect();
    this.node = null;
    this.analyser = null;
    if (this.video) this.video.srcObject = null;
    this.video = null;
    this.stream = null;
    this.sent.clear();
    this.back.clear();
  }
}
