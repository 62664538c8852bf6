/** Parts of the page that are wanted and being fetched. */
let count = 0;

/** Fetches a part that is wanted now. */
export async function fetchWanted<T>(load: () => Promise<T>): Promise<T> {
  count += 1;
  try {
    return await load();
  } finally {
    count -= 1;
  }
}

/** True while something that is wanted is not there yet. */
export const isOnItsWay = (): boolean => count > 0;
