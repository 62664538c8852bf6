/** The decks' thread: decodes what the angles have recorded, at the show times that the decks' motions give. */
import { type DeckNumber } from '#core/replay/air';
import { frameToMicros, microsToFrame, type Rate } from '#core/time/rate';
import { drawPlaceholder, loadPlateFonts } from '../picture/plates';
import { PICTURE_DELAY_MICROS } from '../time/delays';
import { SharedClock } from '../time/shared-clock';
import { workerScope } from '../worker-scope';
import { DeckPlayer } from './deck-player';
import { Material } from './material';
import { type DecksDesk, type FromDecks, type IndexMessage, type ToDecks } from './messages';
import { PictureCache } from './picture-cache';
import { SoundCache } from './sound-cache';

const say = (message: FromDecks, transfer: Transferable[] = []) => workerScope.postMessage(message, transfer);

/** Sound is sent this far ahead, microseconds: no more, so that a deck close behind the present finds its sound recorded. */
const SOUND_AHEAD = 100_000;
const SMALL_CACHE_BYTES = 24e6;
/** Thumbnails that wait; of more, the oldest are given up. */
const THUMBNAIL_QUEUE = 60;

const material = new Material();
const pictures = new PictureCache(material, 160e6);
/** Single frames for thumbnails do not push the decks' frames out. */
const small = new PictureCache(material, SMALL_CACHE_BYTES);
const sounds = new SoundCache(material);
const players = new Map<DeckNumber, DeckPlayer>();

let desk: DecksDesk | null = null;
let generation = 0;
let wake: (() => void) | null = null;
const thumbnails: Extract<ToDecks, { type: 'thumbnail' }>[] = [];
let drawing = false;

function changed(next: DecksDesk): void {
  const before = desk;
  desk = next;
  pictures.limit = next.settings.cacheMegabytes * 1e6;
  for (const player of players.values()) {
    const [was, is] = [before?.replay.decks[player.number], next.replay.decks[player.number]];
    if (was !== is && JSON.stringify(was) !== JSON.stringify(is)) player.changed();
  }
  generation += 1;
  wake?.();
}

async function run({ clock: memory, rate, frameStep, size }: Extract<ToDecks, { type: 'start' }>): Promise<void> {
  await loadPlateFonts().catch(() => undefined);
  const clock = new SharedClock(memory);
  const plate = drawPlaceholder('Deck', 'nothing is recorded here', '#5aa9c9', size.width, size.height);
  plateFor = (stamp) => new VideoFrame(plate, { timestamp: stamp });
  showRate = rate;
  let last = -1;
  let seen = generation;
  let flush = false;
  for (;;) {
    const present = microsToFrame(clock.now(), rate);
    if (seen !== generation) {
      // The change takes effect at the next frame that is mixed: begin there again.
      seen = generation;
      flush = true;
      last = Math.ceil((microsToFrame(clock.now() - PICTURE_DELAY_MICROS, rate) + 1) / frameStep) * frameStep - frameStep;
    }
    const frame = flush ? last + frameStep : Math.max(last + frameStep, Math.floor(present / frameStep) * frameStep);
    const wait = clock.millisUntil(frameToMicros(frame, rate));
    if (wait > 0.5) {
      await new Promise<void>((resolve) => {
        const timer = setTimeout(resolve, wait);
        wake = () => {
          clearTimeout(timer);
          resolve();
        };
      });
      wake = null;
      continue;
    }
    last = frame;
    const now = desk;
    const at = generation;
    const stale = () => generation !== at;
    if (now) {
      const effect = frame;
      await Promise.all(
        [...players.values()].map(async (player) => {
          await player.show(now, frame, flush, stale);
          if (!stale()) await player.sound(now, effect, clock.now() + SOUND_AHEAD, stale);
        }),
      ).catch(() => undefined);
      if (!stale()) flush = false;
    }
  }
}

let showRate: Rate = { num: 25, den: 1 };
let plateFor = (stamp: number): VideoFrame => new VideoFrame(new OffscreenCanvas(16, 16), { timestamp: stamp });

/** Draws waiting thumbnails one after another, the newest wishes first. */
async function drawThumbnails(): Promise<void> {
  if (drawing) return;
  drawing = true;
  for (let next = thumbnails.pop(); next; next = thumbnails.pop()) {
    const { key, trackId, micros, width, exact } = next;
    // A key frame is enough for a small picture, and needs no other to be decoded.
    const place = exact ? null : material.place(trackId, micros);
    const stamp = exact ? micros : place?.segment.groups[place.index]?.stamp;
    const frame = stamp === undefined ? null : await small.frameAt(trackId, stamp, Infinity).catch(() => null);
    const image = frame && (await createImageBitmap(frame, { resizeWidth: width, resizeQuality: 'low' }).catch(() => null));
    frame?.close();
    say({ type: 'thumbnail', key, image }, image ? [image] : []);
  }
  drawing = false;
}

async function probe({ key, trackId, micros }: Extract<ToDecks, { type: 'probe' }>): Promise<void> {
  const started = performance.now();
  const frame = await pictures.frameAt(trackId, micros, 0).catch(() => null);
  say({ type: 'probe', key, ms: performance.now() - started, stamp: frame?.timestamp ?? null });
  frame?.close();
}

workerScope.onmessage = ({ data }: MessageEvent<ToDecks>) => {
  switch (data.type) {
    case 'start':
      data.index.onmessage = (event: MessageEvent<IndexMessage>) => material.take(event.data);
      void run(data);
      setInterval(() => say({ type: 'cache', bytes: pictures.bytes + small.bytes }), 1000);
      return;
    case 'desk':
      return changed(data.desk);
    case 'connect':
      players.get(data.deck)?.close();
      players.set(data.deck, new DeckPlayer(data.deck, data, showRate, pictures, sounds, (stamp) => plateFor(stamp)));
      generation += 1;
      wake?.();
      return;
    case 'disconnect':
      players.get(data.deck)?.close();
      players.delete(data.deck);
      return;
    case 'thumbnail':
      thumbnails.push(data);
      while (thumbnails.length > THUMBNAIL_QUEUE) {
        const dropped = thumbnails.shift();
        if (dropped) say({ type: 'thumbnail', key: dropped.key, image: null });
      }
      void drawThumbnails();
      return;
    case 'probe':
      void probe(data);
      return;
  }
};
