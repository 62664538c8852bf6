/** Folders in the origin private file system. */

/** A folder, made when missing. */
export async function folder(name: 'assets' | 'recordings' | 'replay' | 'exports'): Promise<FileSystemDirectoryHandle> {
  const root = await navigator.storage.getDirectory();
  return root.getDirectoryHandle(name, { create: true });
}

/** Removes a file; one that is gone already is no fault. */
export async function removeFile(from: 'assets' | 'recordings' | 'replay' | 'exports', name: string): Promise<void> {
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
