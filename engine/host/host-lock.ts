/** One window runs a show: Web Locks decides which. */

/** Shows that this page has left and is closing still. */
const closing = new Map<string, Promise<void>>();

/** Lets a show go once what ran of it here has `ended`, however that went; this page can open it again after that. */
export function letGo(showId: string, ended: Promise<unknown>, release: () => void): void {
  const gone = ended
    .catch(() => undefined)
    .then(() => {
      release();
      if (closing.get(showId) === gone) closing.delete(showId);
    });
  closing.set(showId, gone);
}

/**
 * Asks to be the window that runs `showId`. With `steal`, takes it over from the window that does; that one is told
 * through its `onLost`. Where this very page is closing the show still, its end is waited for first, unless it is taken over.
 * @returns a function that lets the show go again, or null when another window runs it.
 */
export async function becomeHost(showId: string, steal: boolean, onLost: () => void): Promise<(() => void) | null> {
  if (!steal) await closing.get(showId);
  return new Promise((resolve, reject) => {
    const held = navigator.locks.request(`bivoca-show-${showId}`, steal ? { steal: true } : { ifAvailable: true }, (lock) => {
      if (!lock) {
        resolve(null);
        return undefined;
      }
      return new Promise<void>((release) => resolve(release));
    });
    held.catch((error: unknown) => {
      if (error instanceof DOMException && error.name === 'AbortError') onLost();
      else reject(error);
    });
  });
}
