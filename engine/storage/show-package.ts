/** Reads a show file: a zip of `show.json` and `assets/`, checked before and while it is unpacked. The form is described in docs/formats.md. */
import { BlobReader, configure, type Entry, type FileEntry, ZipReader } from '@zip.js/zip.js';
import { isTooDeep } from '#core/schema/depth';
import { readShow } from '#core/desk/migrate';
import { type Show } from '#core/desk/show';
import { ShowError } from '#core/desk/validate';

// This runs in a worker already; nothing is loaded from elsewhere.
configure({ useWebWorkers: false });

export interface AssetEntry {
  id: string;
  name: string;
  type: string;
}

export interface ShowPackage {
  show: Show;
  /** Files by the identity that the show has for them. */
  assets: Map<string, { name: string; type: string; data: Blob }>;
}

/** Entries of a file: more than a show can have. */
const MOST_ENTRIES = 3000;
/** Bytes of the document. */
const DOCUMENT_LIMIT = 100e6;
/** Bytes that all of it may unpack to, so that a crafted file cannot fill the disk. */
const UNPACKED_LIMIT = 20e9;
/** What is larger than this, in bytes, may be packed to a twentieth: media hardly gets smaller, zeros a thousand times. */
const EASY_BYTES = 32e6;
const MOST_RATIO = 20;

const damaged = (why: string) => new ShowError(`This file is damaged, or is not a Bivoca show: ${why}.`);

/** Sizes as the directory says them. @throws ShowError */
function checkSizes(entries: readonly Entry[]): void {
  if (entries.length > MOST_ENTRIES) throw damaged(`it holds ${entries.length} files, and a show has at most ${MOST_ENTRIES}`);
  const names = new Set<string>();
  let total = 0;
  for (const { filename, uncompressedSize, compressedSize, encrypted } of entries) {
    if (encrypted) throw damaged(`${filename.slice(0, 80)} in it is encrypted`);
    if (names.has(filename)) throw damaged(`${filename.slice(0, 80)} is in it twice`);
    names.add(filename);
    total += uncompressedSize;
    if (filename === 'show.json' && uncompressedSize > DOCUMENT_LIMIT)
      throw damaged(`its show.json would be ${Math.round(uncompressedSize / 1e6)} MB`);
    if (uncompressedSize > EASY_BYTES && uncompressedSize > compressedSize * MOST_RATIO)
      throw damaged(
        `${filename.slice(0, 80)} in it would unpack to ${Math.round(uncompressedSize / 1e6)} MB from ${Math.max(1, Math.round(compressedSize / 1e6))} MB`,
      );
  }
  if (total > UNPACKED_LIMIT) throw new ShowError(`This file is too large to import: it would unpack to ${Math.round(total / 1e9)} GB.`);
}

/** The bytes of an entry, no more than its directory says, with its checksum compared. @throws ShowError */
async function unpack(entry: FileEntry): Promise<Blob> {
  const parts: Uint8Array<ArrayBuffer>[] = [];
  let size = 0;
  const writable = new WritableStream<Uint8Array<ArrayBuffer>>({
    write(part) {
      size += part.byteLength;
      if (size > entry.uncompressedSize) throw damaged(`${entry.filename} in it is larger than it says`);
      parts.push(part);
    },
  });
  try {
    await entry.getData(writable, { checkSignature: true });
  } catch (error) {
    if (error instanceof ShowError) throw error;
    throw damaged(`${entry.filename} in it cannot be unpacked, or its checksum is not right`);
  }
  if (size !== entry.uncompressedSize) throw damaged(`${entry.filename} in it is shorter than it says`);
  return new Blob(parts);
}

async function document(entry: FileEntry | undefined): Promise<{ show: Show; assets: AssetEntry[] }> {
  if (!entry) throw new ShowError('This is not a Bivoca show: it holds no show.json.');
  const bytes = await (await unpack(entry)).arrayBuffer();
  let raw: unknown;
  try {
    raw = JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(bytes));
  } catch {
    throw new ShowError('This show is damaged: its show.json is not JSON.');
  }
  if (isTooDeep(raw)) throw new ShowError('This show is damaged: its show.json is nested deeper than any show is.');
  const { show, assets } = (raw ?? {}) as { show?: unknown; assets?: unknown };
  const list = (Array.isArray(assets) ? (assets as (Partial<AssetEntry> | null)[]) : []).filter(
    (a): a is AssetEntry =>
      typeof a?.id === 'string' && /^[\w-]{1,64}$/.test(a.id) && typeof a.name === 'string' && typeof a.type === 'string',
  );
  return { show: readShow(show), assets: list };
}

/** The show in a file and its assets. @throws ShowError naming place and cause. */
export async function readPackage(file: Blob): Promise<ShowPackage> {
  const reader = new ZipReader(new BlobReader(file), { checkOverlappingEntry: true });
  try {
    const entries = await reader.getEntries().catch(() => {
      throw damaged('it cannot be unpacked');
    });
    checkSizes(entries);
    const files = new Map(entries.filter((e): e is FileEntry => !e.directory).map((e) => [e.filename, e]));
    const { show, assets } = await document(files.get('show.json'));
    const found: ShowPackage['assets'] = new Map();
    for (const { id, name, type } of assets) {
      const entry = files.get(`assets/${id}`);
      if (entry) found.set(id, { name: name.slice(0, 200), type: type.slice(0, 100), data: await unpack(entry) });
    }
    return { show, assets: found };
  } finally {
    await reader.close().catch(() => undefined);
  }
}
