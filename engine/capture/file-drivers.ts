/** Drivers for what lies in this browser's storage: media files and stills. */
import { type Player } from '#core/media/air';
import { type MediaSettings } from '#core/show/source';
import { mediaTrouble } from '../media/media-trouble';
import { type FromPlayer, type ToPlayer } from '../media/player.worker';
import { decodePicture } from '../media/probe';
import { openAsset } from '../storage/assets';
import { type Driver } from './driver';

/** A file that is missing is looked for again this often, milliseconds; one that cannot be played less and less often. */
const RETRY_MS = 3000;
const LONGEST_RETRY_MS = 60_000;
/** A player that says nothing for so long hangs, milliseconds: it says something each second. */
const SILENT_MS = 20_000;

export const mediaDriver: Driver<'media'> = (source, air, link, format) => {
  let settings: MediaSettings = source.settings;
  let player: Player | undefined = air.players[source.id];
  let worker: Worker | null = null;
  let stopped = false;
  let timer: ReturnType<typeof setTimeout> | undefined;
  let silence: ReturnType<typeof setTimeout> | undefined;
  let pause = RETRY_MS;
  const lose = (cause: string) => {
    clearTimeout(silence);
    worker?.terminate();
    worker = null;
    if (stopped) return;
    link.health('lost', cause);
    timer = setTimeout(() => void start(), pause);
    pause = Math.min(LONGEST_RETRY_MS, pause * 2);
  };
  /** A damaged file can keep its player busy for ever: then the player is ended, not the show. */
  const heard = () => {
    clearTimeout(silence);
    silence = setTimeout(() => lose(`${settings.fileName} cannot be played: its player stands still, the file may be damaged`), SILENT_MS);
  };
  async function start(): Promise<void> {
    let file: File;
    try {
      file = await openAsset(settings.assetId);
    } catch {
      lose(`its file ${settings.fileName} is missing from this browser`);
      return;
    }
    if (stopped) return;
    const opened = new Worker(new URL('../media/player.worker.ts', import.meta.url), { type: 'module' });
    worker = opened;
    opened.onmessage = ({ data }: MessageEvent<FromPlayer>) => {
      heard();
      if (data.type === 'ready') {
        pause = RETRY_MS;
        link.health('live');
      } else if (data.type === 'failed') lose(data.message);
    };
    heard();
    opened.onerror = (event) => lose(`${settings.fileName} cannot be played: ${event.message}`);
    const frames = link.framePort();
    const sound = link.soundPort();
    const message: ToPlayer = { type: 'start', ...format, file, settings, player, frames, sound };
    opened.postMessage(message, [frames, sound]);
  }
  link.health('waiting', 'opening the file');
  void start();
  return {
    stop: () => {
      stopped = true;
      clearTimeout(timer);
      clearTimeout(silence);
      worker?.terminate();
    },
    update: (changed, now) => {
      settings = changed.settings as MediaSettings;
      player = now.players[changed.id];
      worker?.postMessage({ type: 'player', settings, player } satisfies ToPlayer);
    },
  };
};

/** Decodes any still the browser knows; SVG is drawn at the size of the raster it will fill. @throws MediaTrouble */
const decodeStill = async (file: Blob, height: number): Promise<ImageBitmap> =>
  file.type === 'image/svg+xml' ? (await import('../media/svg')).drawSvg(await file.text(), height) : (await decodePicture(file)).image;

export const stillDriver: Driver<'still'> = (source, _air, link, format) => {
  const { settings } = source;
  let stopped = false;
  let timer: ReturnType<typeof setTimeout> | undefined;
  async function start(): Promise<void> {
    try {
      const image = await decodeStill(await openAsset(settings.assetId), format.working.height);
      if (stopped) image.close();
      else {
        link.still(image);
        link.health('live');
      }
    } catch (error) {
      if (stopped) return;
      const missing = error instanceof DOMException && error.name === 'NotFoundError';
      link.health(
        'lost',
        missing
          ? `its file ${settings.fileName} is missing from this browser`
          : `${settings.fileName} cannot be used: ${mediaTrouble(error)}`,
      );
      // One that is there and cannot be used does not get better by being read again.
      if (missing) timer = setTimeout(() => void start(), RETRY_MS);
    }
  }
  void start();
  return {
    stop: () => {
      stopped = true;
      clearTimeout(timer);
    },
  };
};
