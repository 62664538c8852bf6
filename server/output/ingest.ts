/** The streaming site's intake: CMAF segments come in by PUT and are published as HLS. Survives a restart. */
import { mkdir, readFile, rename, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { type InitInfo, readInit, readSegment } from './isobmff';
import { masterPlaylist, mediaPlaylist, type PlaylistSegment } from './playlist';

export const TRACKS = ['video', 'audio'] as const;
export type TrackName = (typeof TRACKS)[number];

/** Segments kept for viewers: about a minute. */
const WINDOW = 30;

/** Only these names exist; nothing else of a path ever reaches the file system. */
const STREAM_NAME = /^[a-z0-9][a-z0-9-]{0,31}$/;
const FILE_NAME = /^(init\.mp4|\d{6}\.m4s)$/;

interface Track {
  init: InitInfo | null;
  segments: PlaylistSegment[];
  /** Bytes of the newest segment, for the playlist's bandwidth. */
  bytes: number;
}

export class IngestError extends Error {
  constructor(
    readonly status: 400 | 404 | 409,
    message: string,
  ) {
    super(message);
  }
}

export interface StreamFile {
  stream: string;
  track: TrackName;
  file: string;
}

/** @throws IngestError when any part of the path is not one of the names that exist. */
export function streamFile(stream: string, track: string, file: string): StreamFile {
  if (!STREAM_NAME.test(stream)) throw new IngestError(400, 'A stream is named by small letters, digits and dashes.');
  if (!TRACKS.includes(track as TrackName)) throw new IngestError(400, 'A track is "video" or "audio".');
  if (!FILE_NAME.test(file)) throw new IngestError(400, 'A segment is named init.mp4 or six digits and .m4s.');
  return { stream, track: track as TrackName, file };
}

export class Ingest {
  private readonly tracks = new Map<string, Track>();
  private queue: Promise<unknown> = Promise.resolve();

  constructor(private readonly root: string) {}

  /** Takes one segment in; one after another, so that lists and files agree. */
  put(place: StreamFile, data: Uint8Array): Promise<void> {
    const done = this.queue.then(() => this.store(place, data));
    this.queue = done.catch(() => undefined);
    return done;
  }

  private folder({ stream, track }: { stream: string; track: TrackName }): string {
    return join(this.root, stream, track);
  }

  private async store(place: StreamFile, data: Uint8Array): Promise<void> {
    const folder = this.folder(place);
    if (place.file === 'init.mp4') {
      const init = read(() => readInit(data));
      await rm(folder, { recursive: true, force: true });
      await mkdir(folder, { recursive: true });
      await writeFile(join(folder, 'init.mp4'), data);
      await this.remember(place, { init, segments: [], bytes: 0 });
      return;
    }
    const track = await this.track(place);
    if (!track?.init) throw new IngestError(409, 'The init segment of this track is missing. Send it first.');
    const { start, duration } = read(() => readSegment(data));
    const number = Number(place.file.slice(0, 6));
    // A segment that comes again after a lost answer is taken again, in its place.
    const others = track.segments.filter((s) => s.number !== number);
    const segments = [...others, { number, start: start / track.init.timescale, duration: duration / track.init.timescale }];
    segments.sort((a, b) => a.number - b.number);
    await writeFile(join(folder, place.file), data);
    await this.remember(place, { init: track.init, segments: segments.slice(-WINDOW), bytes: data.byteLength });
    for (const gone of segments.slice(0, -WINDOW)) {
      await rm(join(folder, `${String(gone.number).padStart(6, '0')}.m4s`), { force: true });
    }
  }

  private async remember(place: { stream: string; track: TrackName }, track: Track): Promise<void> {
    this.tracks.set(`${place.stream}/${place.track}`, track);
    const file = join(this.folder(place), 'track.json');
    await writeFile(`${file}.new`, JSON.stringify(track));
    await rename(`${file}.new`, file);
  }

  private async track(place: { stream: string; track: TrackName }): Promise<Track | null> {
    const key = `${place.stream}/${place.track}`;
    const known = this.tracks.get(key);
    if (known) return known;
    try {
      const stored = JSON.parse(await readFile(join(this.folder(place), 'track.json'), 'utf8')) as Track;
      this.tracks.set(key, stored);
      return stored;
    } catch {
      return null;
    }
  }

  /** @throws IngestError when there is no such stream. */
  async master(stream: string): Promise<string> {
    streamFile(stream, 'video', 'init.mp4');
    const [video, audio] = await Promise.all(TRACKS.map((track) => this.track({ stream, track })));
    if (!video?.init || video.segments.length === 0) throw new IngestError(404, 'Nothing is being streamed under this name.');
    const seconds = video.segments.at(-1)?.duration ?? 2;
    return masterPlaylist(video.init, audio?.init ?? null, (video.bytes * 8) / Math.max(0.1, seconds) + 160_000);
  }

  /** @throws IngestError when there is no such track. */
  async playlist(stream: string, track: string): Promise<string> {
    const place = streamFile(stream, track, 'init.mp4');
    const found = await this.track(place);
    if (!found?.init) throw new IngestError(404, 'Nothing is being streamed under this name.');
    return mediaPlaylist(found.segments);
  }

  /** Bytes of a published file. @throws IngestError */
  async file(place: StreamFile): Promise<Buffer> {
    try {
      return await readFile(join(this.folder(place), place.file));
    } catch {
      throw new IngestError(404, 'This segment is not here, or no longer.');
    }
  }
}

function read<T>(parse: () => T): T {
  try {
    return parse();
  } catch (error) {
    throw new IngestError(400, error instanceof Error ? error.message : 'This segment cannot be read.');
  }
}
