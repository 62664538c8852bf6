/** The host's side of the mixer's thread: its desk, its monitors, and whoever takes its pictures. */
import { nanoid } from 'nanoid';
import { createAutomationAir } from '#core/automation/air';
import { createAudienceAir } from '#core/audience/air';
import { createAudience } from '#core/audience/document';
import { type Desk } from '#core/desk/air';
import { type Show } from '#core/desk/show';
import { findGraphic } from '#core/graphics/find';
import { graphicsForMixer } from '#core/graphics/for-mixer';
import { type MosaicLayout } from '#core/panels/mosaic';
import { type Output } from '#core/screens/outputs';
import { type AttachedMonitor } from '../client/show-client';
import { takeFrames, WINDOW_FRAMES } from '../picture/frame-outlet';
import { type FromMixer, type MixerStats, type MonitorPicture, type ToMixer, type Working } from '../picture/messages';
import { preferredMixer } from '../picture/mixer-choice';

/** What the mixer tells. */
export interface MixerEvents {
  tick(frame: number, stats: MixerStats): void;
  ready(renderer: { renderer: string; software: boolean; mixer: string }): void;
  /** A source's first frame since it was connected: its size, pixels. */
  seen(id: string, size: { width: number; height: number }): void;
  thumbnail(blob: Blob): void;
  /** A graphic cannot be drawn, and why. */
  paintFailed(message: string): void;
  /** The graphics worker does not answer. */
  graphicsDead(): void;
  /** Pictures cannot be drawn, and why; null when they can again. */
  failed(message: string | null): void;
}

const NO_MACROS: Show['automation'] = { macros: [], triggers: [] };
const NO_RUNS = createAutomationAir();
const NO_AUDIENCE = createAudience();
const NOBODY = createAudienceAir();

/** The show without its macros, clips and sheets, which may be thousands: play-outs hold their own copies, and graphics what they show of sheets. */
const slim = (show: Show): Show => ({
  ...show,
  sheets: [],
  audience: NO_AUDIENCE,
  automation: NO_MACROS,
  replay: show.replay.clips.length === 0 ? show.replay : { ...show.replay, clips: [] },
});

export class MixerPort {
  /** Graphics that the mixer has. */
  private graphics: Show['graphics'] | null = null;
  /** Pictures that monitors show, with their number. */
  private readonly watched = new Map<string, number>();
  private desk: Desk | null = null;
  private inMosaic: readonly MonitorPicture[] = [];
  private mosaicPort: MessagePort | null = null;

  constructor(
    private readonly worker: Worker,
    events: MixerEvents,
  ) {
    worker.onmessage = ({ data }: MessageEvent<FromMixer>) => this.receive(data, events);
    worker.onerror = (event) => events.failed(`The picture mixer stopped: ${event.message}`);
  }

  private receive(message: FromMixer, events: MixerEvents): void {
    switch (message.type) {
      case 'tick':
        events.tick(message.frame, message.stats);
        // The next one is sent when this one has been dealt with.
        return this.send({ type: 'tick-taken' });
      case 'ready': {
        const { renderer, software, mixer } = message;
        return events.ready({ renderer, software, mixer });
      }
      case 'source-seen':
        return events.seen(message.id, { width: message.width, height: message.height });
      case 'thumbnail':
        return events.thumbnail(message.blob);
      case 'paint-failed':
        return events.paintFailed(message.message);
      case 'graphics-dead':
        return events.graphicsDead();
      case 'failed':
        return events.failed(message.message);
    }
  }

  start({ show, air }: Desk, clock: SharedArrayBuffer, working: Working): void {
    this.desk = { show, air };
    this.graphics = graphicsForMixer(this.desk, this.watched.keys(), null);
    this.send({
      type: 'start',
      clock,
      working,
      desk: { show: { ...slim(show), graphics: this.graphics }, air },
      prefer: preferredMixer(),
    });
  }

  send(message: ToMixer, transfer: Transferable[] = []): void {
    this.worker.postMessage(message, transfer);
  }

  /** Takes effect at the next frame, or at `from`. */
  setDesk(desk: Desk, from: number | null = null): void {
    this.desk = desk;
    const graphics = graphicsForMixer(desk, this.watched.keys(), this.graphics);
    const same = graphics === this.graphics;
    this.graphics = graphics;
    this.send({
      type: 'desk',
      show: { ...slim(desk.show), graphics: same ? null : graphics },
      air: { ...desk.air, automation: NO_RUNS, audience: NOBODY },
      from,
    });
  }

  /** Graphics that only a monitor shows are sent to the mixer while it does. */
  private watch(picture: MonitorPicture, by: 1 | -1): void {
    if ((picture.kind !== 'picture' && picture.kind !== 'over') || !this.desk || !findGraphic(this.desk.show, picture.id)) return;
    const count = (this.watched.get(picture.id) ?? 0) + by;
    if (count > 0) this.watched.set(picture.id, count);
    else this.watched.delete(picture.id);
    if (by > 0) this.setDesk(this.desk);
  }

  /** Sends an output's frames to `port`; at most `waiting` are on their way. Returns how to end it. The mixer closes the port after its last frame. */
  sendOutput(output: Output, port: MessagePort, waiting: number, as: 'frames' | 'planes' = 'frames'): () => void {
    const key = nanoid();
    this.send({ type: 'output-port', key, port, output, waiting, as }, [port]);
    return () => this.send({ type: 'output-gone', key });
  }

  /** Frames of an output for this window; `receive` owns each. Returns how to end it. */
  takeOutput(output: Output, receive: (frame: VideoFrame) => void): () => void {
    const { port1, port2 } = new MessageChannel();
    takeFrames(port2, ({ frame }) => receive(frame));
    return this.sendOutput(output, port1, WINDOW_FRAMES);
  }

  /** Gives a canvas over to the mixer, which shows `picture` in it. */
  attachMonitor(canvas: HTMLCanvasElement, picture: MonitorPicture): AttachedMonitor {
    const key = nanoid();
    this.watch(picture, 1);
    const offscreen = canvas.transferControlToOffscreen();
    this.send({ type: 'monitor', key, canvas: offscreen, picture }, [offscreen]);
    return {
      resize: (width, height) => this.send({ type: 'monitor-size', key, width, height }),
      detach: () => {
        this.watch(picture, -1);
        this.send({ type: 'monitor-gone', key });
      },
    };
  }

  /** Pictures for panels: `layout` says where each stands, `pictures` what it shows. `take` gets the encoded pieces. Null ends them. */
  setMosaic(layout: MosaicLayout | null, pictures: Record<string, MonitorPicture>, take: (piece: Uint8Array) => void): void {
    for (const picture of this.inMosaic) this.watch(picture, -1);
    this.inMosaic = Object.values(pictures);
    for (const picture of this.inMosaic) this.watch(picture, 1);
    this.mosaicPort?.close();
    this.mosaicPort = null;
    if (!layout) return this.send({ type: 'mosaic', layout, pictures: {}, port: null });
    const { port1, port2 } = new MessageChannel();
    this.mosaicPort = port1;
    port1.onmessage = ({ data }: MessageEvent<Uint8Array>) => take(data);
    return this.send({ type: 'mosaic', layout, pictures, port: port2 }, [port2]);
  }

  /** The next picture for panels can be decoded by itself. */
  wantMosaicKey(): void {
    this.send({ type: 'mosaic-key' });
  }

  close(): void {
    this.worker.terminate();
  }
}
