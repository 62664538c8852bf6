/** The streaming site's intake: CMAF segments come in by PUT and are published as HLS. Survives a restart. */
import { mkdir, readdir, readFile, rename, rm, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { type InitInfo, readInit, readSegment } from './isobmff';
import { masterPlaylist, mediaPlaylist, type PlaylistSegment } from './playlist';

export const TRACKS = ['video', 'audio'] as const;
export type TrackName = (typeof TRACKS)[number];

/** Segments kept for viewers: about a minute. */
const WINDOW = 30;
/** Bytes of one segment: 2 s of 50 Mbit/s with room to spare. */
export const SEGMENT_LIMIT = 16_000_000;
/** Bytes kept of one track; above, its oldest segments go early. */
const TRACK_LIMIT = 200_000_000;
/** Streams kept; above, the one that was sent to least lately makes room, once it rests. */
const STREAM_LIMIT = 8;
/** A stream rests when nothing has come for so long, milliseconds. */
const REST_MS = 60_000;
/** Longest segment, seconds. */
const LONGEST_SEGMENT = 60;
/** Latest start, seconds of show time: a century. */
const LATEST_START = 100 * 365 * 86_400;

/** Only these names exist; nothing else of a path ever reaches the file system. */
const STREAM_NAME = /^[a-z0-9][a-z0-9-]{0,31}$/;
const FILE_NAME = /^(init\.mp4|\d{6}\.m4s)$/;

interface Kept extends PlaylistSegment {
  bytes: number;
}

interface Track {
  init: InitInfo | null;
  segments: Kept[];
}

export class IngestError extends Error {
  constructor(
    readonly status: 400 | 404 | 409 | 507,
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
  /** When each stream was sent to last, by the wall clock; the one sent to least lately first. */
  private readonly streams = new Map<string, number>();
  private known: Promise<void> | null = null;
  private queue: Promise<unknown> = Promise.resolve();

  constructor(private readonly root: string) {}

  /** Cheap refusal of what could not be stored, before its bytes are read. @throws IngestError */
  welcome({ stream }: StreamFile): void {
    if (this.streams.has(stream) || this.streams.size < STREAM_LIMIT) return;
    if (!this.resting()) throw new IngestError(507, `${STREAM_LIMIT} streams are being taken in, and more are not. End one of them first.`);
  }

  /** Seconds since a stream was sent to last; null for one that there is none of. */
  async idleSeconds(stream: string): Promise<number | null> {
    this.known ??= this.find();
    await this.known;
    const at = this.streams.get(stream);
    return at === undefined ? null : Math.max(0, (Date.now() - at) / 1000);
  }

  /** The stream that may make room for another. */
  private resting(): string | undefined {
    const [oldest] = this.streams;
    return oldest && Date.now() - oldest[1] > REST_MS ? oldest[0] : undefined;
  }

  /** Takes one segment in; one after another, so that lists and files agree. */
  put(place: StreamFile, data: Uint8Array): Promise<void> {
    const done = this.queue.then(() => this.store(place, data));
    this.queue = done.catch(() => undefined);
    return done;
  }

  private folder({ stream, track }: { stream: string; track: TrackName }): string {
    return join(this.root, stream, track);
  }

  /** What an earlier run has left counts too. */
  private async find(): Promise<void> {
    const names = await readdir(this.root).catch(() => [] as string[]);
    const found = await Promise.all(
      names.filter((n) => STREAM_NAME.test(n)).map(async (n) => [n, (await stat(join(this.root, n))).mtimeMs] as const),
    );
    for (const [name, at] of found.sort((a, b) => a[1] - b[1])) this.streams.set(name, at);
  }

  /** Counts the stream as sent to, and makes room for it. @throws IngestError when there is none. */
  private async touch(place: StreamFile): Promise<void> {
    await (this.known ??= this.find());
    this.welcome(place);
    const had = this.streams.delete(place.stream);
    while (!had && this.streams.size >= STREAM_LIMIT) {
      const oldest = this.streams.keys().next().value as string;
      this.streams.delete(oldest);
      for (const track of TRACKS) this.tracks.delete(`${oldest}/${track}`);
      await rm(join(this.root, oldest), { recursive: true, force: true });
    }
    this.streams.set(place.stream, Date.now());
  }

  private async store(place: StreamFile, data: Uint8Array): Promise<void> {
    const folder = this.folder(place);
    if (place.file === 'init.mp4') {
      const init = read(() => readInit(data));
      await this.touch(place);
      await rm(folder, { recursive: true, force: true });
      await mkdir(folder, { recursive: true });
      await writeFile(join(folder, 'init.mp4'), data);
      await this.remember(place, { init, segments: [] });
      return;
    }
    const track = await this.track(place);
    if (!track?.init) throw new IngestError(409, 'The init segment of this track is missing. Send it first.');
    const info = read(() => readSegment(data));
    const { timescale } = track.init;
    const segment: Kept = {
      number: Number(place.file.slice(0, 6)),
      start: info.start / timescale,
      duration: info.duration / timescale,
      bytes: data.byteLength,
    };
    if (!(segment.duration > 0 && segment.duration <= LONGEST_SEGMENT))
      throw new IngestError(400, `A segment is at most ${LONGEST_SEGMENT} s long, and longer than nothing.`);
    if (!(segment.start >= 0 && segment.start <= LATEST_START))
      throw new IngestError(400, 'This segment begins at a time that no stream reaches.');
    // A segment that comes again after a lost answer is taken again, in its place.
    const others = track.segments.filter((s) => s.number !== segment.number);
    const wrong = others.find((s) => (s.number < segment.number ? s.start >= segment.start : s.start <= segment.start));
    if (wrong)
      throw new IngestError(
        409,
        `This segment does not begin between its neighbours: number ${wrong.number} begins at ${wrong.start.toFixed(2)} s. Send the init segment again to begin anew.`,
      );
    await this.touch(place);
    const segments = [...others, segment].sort((a, b) => a.number - b.number);
    await writeFile(join(folder, place.file), data);
    const kept = newest(segments);
    await this.remember(place, { init: track.init, segments: kept });
    for (const gone of segments.slice(0, segments.length - kept.length)) {
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
      const stored = JSON.parse(await readFile(join(this.folder(place), 'track.json'), 'utf8')) as Partial<Track> | null;
      if (!stored?.init || !Array.isArray(stored.segments)) return null;
      const track: Track = { init: stored.init, segments: stored.segments };
      this.tracks.set(key, track);
      return track;
    } catch {
      return null;
    }
  }

  /** @throws IngestError when there is no such stream. */
  async master(stream: string): Promise<string> {
    streamFile(stream, 'video', 'init.mp4');
    const [video, audio] = await Promise.all(TRACKS.map((track) => this.track({ stream, track })));
    if (!video?.init || video.segments.length === 0) throw new IngestError(404, 'Nothing is being streamed under this name.');
    const { bytes, duration } = video.segments.at(-1) as Kept;
    return masterPlaylist(video.init, audio?.init ?? null, (bytes * 8) / Math.max(0.1, duration) + 160_000);
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

/** The newest segments, as many as the window and the room of a track hold. */
function newest(segments: readonly Kept[]): Kept[] {
  let bytes = 0;
  const from = segments.findLastIndex((s) => (bytes += s.bytes) > TRACK_LIMIT);
  return segments.slice(Math.max(from + 1, segments.length - WINDOW));
}

function read<T>(parse: () => T): T {
  try {
    return parse();
  } catch (error) {
    throw new IngestError(400, error instanceof Error ? error.message : 'This segment cannot be read.');
  }
}
