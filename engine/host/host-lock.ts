/** One window runs a show: Web Locks decides which. */

/**
 * Asks to be the window that runs `showId`. With `steal`, takes it over from the window that does; that one is told
 * through its `onLost`.
 * @returns a function that lets the show go again, or null when another window runs it.
 */
export async function becomeHost(showId: string, steal: boolean, onLost: () => void): Promise<(() => void) | null> {
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
