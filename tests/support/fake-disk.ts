/** A disk for tests outside a browser: the part of the origin private file system that the engine uses, in memory. */
import { vi } from 'vitest';

class Stored {
  bytes = new Uint8Array(0);
  /** Held by a writer: nobody else may open it for writing. */
  locked = false;
}

export class FakeDisk {
  /** Bytes that fit; writing beyond is refused as browsers do. */
  quota = Infinity;
  /** Set, every opening for writing is refused with it. */
  refusal: Error | null = null;
  /** Handles opened and not closed. */
  open = 0;
  private readonly folders = new Map<string, Map<string, Stored>>();

  get used(): number {
    return [...this.folders.values()].flatMap((f) => [...f.values()]).reduce((sum, file) => sum + file.bytes.length, 0);
  }

  private at(folder: string): Map<string, Stored> {
    const found = this.folders.get(folder) ?? new Map<string, Stored>();
    this.folders.set(folder, found);
    return found;
  }

  /** What a file holds; null when there is none. */
  bytesOf(folder: string, name: string): Uint8Array<ArrayBuffer> | null {
    return this.at(folder).get(name)?.bytes.slice() ?? null;
  }

  namesIn(folder: string): string[] {
    return [...this.at(folder).keys()].sort();
  }

  /** Puts a file there by hand. */
  put(folder: string, name: string, bytes: Uint8Array): void {
    const file = new Stored();
    file.bytes = bytes.slice() as Uint8Array<ArrayBuffer>;
    this.at(folder).set(name, file);
  }

  private write(file: Stored, data: Uint8Array, at: number): number {
    const size = Math.max(file.bytes.length, at + data.length);
    if (this.used + size - file.bytes.length > this.quota) throw new DOMException('no room', 'QuotaExceededError');
    const bytes = new Uint8Array(size);
    bytes.set(file.bytes);
    bytes.set(data, at);
    file.bytes = bytes;
    return data.length;
  }

  private syncHandle(file: Stored, reading: boolean) {
    if (this.refusal) throw this.refusal;
    if (!reading && file.locked) throw new DOMException('in use', 'NoModificationAllowedError');
    if (!reading) file.locked = true;
    this.open += 1;
    let closed = false;
    return {
      write: (data: Uint8Array, { at }: { at: number }) => this.write(file, data, at),
      read: (into: Uint8Array, { at }: { at: number }) => {
        const part = file.bytes.subarray(at, at + into.length);
        into.set(part);
        return part.length;
      },
      getSize: () => file.bytes.length,
      truncate: (size: number) => {
        file.bytes = file.bytes.slice(0, size);
      },
      flush: () => undefined,
      close: () => {
        if (closed) return;
        closed = true;
        this.open -= 1;
        if (!reading) file.locked = false;
      },
    };
  }

  private fileHandle(name: string, file: Stored) {
    return {
      name,
      getFile: () => Promise.resolve(new File([file.bytes], name)),
      createSyncAccessHandle: async (options?: { mode: string }) => Promise.resolve(this.syncHandle(file, options?.mode === 'read-only')),
      createWritable: () =>
        Promise.resolve(
          new WritableStream<Uint8Array>({
            start: () => {
              file.bytes = new Uint8Array(0);
            },
            write: (data) => void this.write(file, data, file.bytes.length),
          }),
        ),
    };
  }

  private folderHandle(folder: string) {
    const files = this.at(folder);
    const missing = () => new DOMException('no such file', 'NotFoundError');
    return {
      getFileHandle: (name: string, options?: { create?: boolean }) => {
        let file = files.get(name);
        if (!file && !options?.create) return Promise.reject(missing());
        file ??= new Stored();
        files.set(name, file);
        return Promise.resolve(this.fileHandle(name, file));
      },
      removeEntry: (name: string) => (files.delete(name) ? Promise.resolve() : Promise.reject(missing())),
      async *keys() {
        yield* [...files.keys()];
      },
    };
  }

  /** Stands for `navigator.storage`. */
  readonly storage = {
    getDirectory: () =>
      Promise.resolve({
        getDirectoryHandle: (name: string) => Promise.resolve(this.folderHandle(name)),
        removeEntry: (name: string) => Promise.resolve(void this.folders.delete(name)),
      }),
    estimate: () => Promise.resolve({ usage: this.used, quota: Number.isFinite(this.quota) ? this.quota : 100e9 }),
  };
}

/** A new, empty disk in the place of the browser's until `vi.unstubAllGlobals`. */
export function useFakeDisk(): FakeDisk {
  const disk = new FakeDisk();
  vi.stubGlobal('navigator', { storage: disk.storage });
  return disk;
}
