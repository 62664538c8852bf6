/** Drivers for what lies in this browser's storage: media files and stills. */
import { type Player } from '#core/show/air';
import { type MediaSettings, type StillSettings } from '#core/show/source';
import { type FromPlayer, type ToPlayer } from '../media/player.worker';
import { openAsset } from '../storage/assets';
import { type Driver } from './driver';

/** A file that is missing is looked for again this often, milliseconds. */
const RETRY_MS = 3000;

export const mediaDriver: Driver = (source, air, link, format) => {
  let settings = source.settings as MediaSettings;
  let player: Player | undefined = air.players[source.id];
  let worker: Worker | null = null;
  let stopped = false;
  let timer: ReturnType<typeof setTimeout> | undefined;
  const lose = (cause: string) => {
    worker?.terminate();
    worker = null;
    if (stopped) return;
    link.health('lost', cause);
    timer = setTimeout(() => void start(), RETRY_MS);
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
      if (data.type === 'ready') link.health('live');
      else lose(data.message);
    };
    opened.onerror = (event) => lose(`its player failed: ${event.message}`);
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
      worker?.terminate();
    },
    update: (changed, now) => {
      settings = changed.settings as MediaSettings;
      player = now.players[changed.id];
      worker?.postMessage({ type: 'player', settings, player } satisfies ToPlayer);
    },
  };
};

/** Decodes any still the browser knows; SVG is drawn at the size of the raster it will fill. */
async function decodeStill(file: Blob, height: number): Promise<ImageBitmap> {
  if (file.type !== 'image/svg+xml') return createImageBitmap(file);
  const url = URL.createObjectURL(file);
  try {
    const image = new Image();
    image.src = url;
    await image.decode();
    const scale = height / (image.naturalHeight || height);
    const canvas = document.createElement('canvas');
    canvas.width = Math.max(1, Math.round((image.naturalWidth || height) * scale));
    canvas.height = height;
    canvas.getContext('2d')?.drawImage(image, 0, 0, canvas.width, canvas.height);
    return await createImageBitmap(canvas);
  } finally {
    URL.revokeObjectURL(url);
  }
}

export const stillDriver: Driver = (source, _air, link, format) => {
  const settings = source.settings as StillSettings;
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
      link.health('lost', missing ? `its file ${settings.fileName} is missing from this browser` : `${settings.fileName} cannot be decoded`);
      timer = setTimeout(() => void start(), RETRY_MS);
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
