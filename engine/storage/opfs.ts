/** Folders and files in the origin private file system. */

/** Exclusive, synchronous writing to a file, from a worker. */
export interface SyncHandle {
  write(data: AllowSharedBufferSource, options: { at: number }): number;
  getSize(): number;
  truncate(size: number): void;
  flush(): void;
  close(): void;
}

/** Synchronous reading of a file that others may read too, from a worker. */
export interface ReadHandle {
  read(into: Uint8Array<ArrayBuffer>, options: { at: number }): number;
  close(): void;
}

/** The part of a file's handle that TypeScript's library for pages leaves out. */
interface WorkerFile {
  createSyncAccessHandle?: {
    (): Promise<SyncHandle>;
    (options: { mode: 'read-only' }): Promise<ReadHandle>;
  };
}

type Folder = 'assets' | 'recordings' | 'replay' | 'exports';

/** A folder, made when missing. */
export async function folder(name: Folder): Promise<FileSystemDirectoryHandle> {
  const root = await navigator.storage.getDirectory();
  return root.getDirectoryHandle(name, { create: true });
}

/** Opens a file for writing, made when missing. Workers only. @throws DOMException when the disk or the browser refuses. */
export async function openForWriting(name: Folder, file: string): Promise<SyncHandle> {
  const entry = (await (await folder(name)).getFileHandle(file, { create: true })) as WorkerFile;
  if (!entry.createSyncAccessHandle) throw new Error('files can be written in workers only');
  return entry.createSyncAccessHandle();
}

/** A shared handle for reading; null where the browser has none. */
export const openForReading = async (entry: FileSystemFileHandle): Promise<ReadHandle | null> =>
  (await (entry as WorkerFile).createSyncAccessHandle?.({ mode: 'read-only' }).catch(() => null)) ?? null;

/** Removes a file; one that is gone already is no fault. */
export async function removeFile(from: Folder, name: string): Promise<void> {
  try {
    await (await folder(from)).removeEntry(name);
  } catch (error) {
    if (!(error instanceof DOMException && error.name === 'NotFoundError')) throw error;
  }
}

export interface Space {
  used: number;
  free: number;
}

/**
 * Bytes that this browser's storage uses and still grants. Browsers may tell a rounded or fixed allowance instead of the
 * true room, so writing must be ready to fail all the same.
 */
export async function storageSpace(): Promise<Space> {
  const { usage = 0, quota = 0 } = await navigator.storage.estimate();
  return { used: usage, free: Math.max(0, quota - usage) };
}
