/** One deck: sends the recorded frames and sound of show and air to the mixer and the sound desk. */
import { type DeckNumber } from '#core/replay/air';
import { type DeckPicture, deckPictures, type DeckPlace, deckPlace } from '#core/replay/deck';
import { frameToMicros, type Rate } from '#core/time/rate';
import { type FrameMessage } from '../picture/messages';
import { SAMPLE_RATE, type SoundChunk, type SoundFlush } from '../sound/chunk';
import { type DecksDesk } from './messages';
import { type PictureCache } from './picture-cache';
import { type SoundCache } from './sound-cache';

export interface DeckPorts {
  frames: MessagePort;
  second: MessagePort;
  sound: MessagePort;
}

export class DeckPlayer {
  private readonly sent = new Map<MessagePort, string>();
  /** Next sample of show time to send. */
  private cursor = NaN;
  private flushSound = true;
  private closed = false;

  constructor(
    readonly number: DeckNumber,
    private readonly ports: DeckPorts,
    private readonly rate: Rate,
    private readonly pictures: PictureCache,
    private readonly sounds: SoundCache,
    /** A picture that says that nothing is recorded. */
    private readonly plate: (stamp: number) => VideoFrame,
  ) {}

  /** The motion has changed: what was sent ahead no longer holds. */
  changed(): void {
    this.sent.clear();
    this.flushSound = true;
  }

  /** Sends the pictures of show frame `frame`; `stale` says after every wait whether they are still wanted. */
  async show(desk: DecksDesk, frame: number, flush: boolean, stale: () => boolean): Promise<void> {
    const deck = desk.replay.decks[this.number];
    const place = deckPlace(deck, desk.replay, frame, this.rate);
    const [first, second] = deckPictures(deck, place, desk.settings.blend);
    await Promise.all([
      first && this.send(this.ports.frames, first, place, frame, flush, stale),
      second && this.send(this.ports.second, second, place, frame, flush, stale),
    ]);
  }

  private async send(
    port: MessagePort,
    picture: DeckPicture,
    place: DeckPlace,
    frame: number,
    flush: boolean,
    stale: () => boolean,
  ): Promise<void> {
    const found = await this.pictures.frameAt(picture.angleId, frameToMicros(picture.position, this.rate), place.rate);
    // What is sent by a closed port would stay open.
    if (stale() || this.closed) {
      found?.close();
      return;
    }
    const stamp = frameToMicros(frame, this.rate);
    const key = found ? `${picture.angleId} ${found.timestamp}` : 'nothing';
    if (this.sent.get(port) === key) {
      found?.close();
      return;
    }
    this.sent.set(port, key);
    const message: FrameMessage = { frame: found ?? this.plate(stamp), stamp, ...(flush && { flush: true }) };
    port.postMessage(message, [message.frame]);
  }

  /** Sends sound up to `until` (show microseconds): at normal speed, or at any forward speed where that is wanted. */
  async sound(desk: DecksDesk, effect: number, until: number, stale: () => boolean): Promise<void> {
    const perFrame = (SAMPLE_RATE * this.rate.den) / this.rate.num;
    const last = Math.round((until / 1e6) * SAMPLE_RATE);
    if (this.flushSound) {
      this.flushSound = false;
      const from = Math.round(effect * perFrame);
      this.ports.sound.postMessage({ flush: from } satisfies SoundFlush);
      this.cursor = Math.max(from, last - SAMPLE_RATE);
    }
    if (Number.isNaN(this.cursor) || last - this.cursor > SAMPLE_RATE) this.cursor = last - Math.round(perFrame);
    while (this.cursor < last && !stale()) {
      const frame = Math.floor(this.cursor / perFrame + 1e-6);
      const end = Math.round((frame + 1) * perFrame);
      const from = this.cursor;
      this.cursor = end;
      const chunk = await this.chunkOf(desk, frame, from, end - from, perFrame);
      if (chunk && !stale())
        this.ports.sound.postMessage(
          chunk,
          chunk.channels.map((c) => c.buffer),
        );
    }
  }

  private async chunkOf(desk: DecksDesk, frame: number, from: number, count: number, perFrame: number): Promise<SoundChunk | null> {
    const deck = desk.replay.decks[this.number];
    const place = deckPlace(deck, desk.replay, frame, this.rate);
    if (place.live || place.rate <= 0 || (place.rate !== 1 && !desk.settings.soundAtSpeed)) return null;
    const soundId = desk.angles.find((a) => a.pictureId === place.angleId)?.soundId;
    if (soundId === undefined || soundId === null) return null;
    const start = Math.round(place.position * perFrame) + (from - Math.round(frame * perFrame)) * place.rate;
    return { sample: from, channels: await this.sounds.read(`sound-${soundId}`, start, count, place.rate) };
  }

  close(): void {
    this.closed = true;
    for (const port of Object.values(this.ports) as MessagePort[]) port.close();
  }
}
