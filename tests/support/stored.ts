/** Reads a row of the page's database as it is on disk. */
import { type Page } from 'puppeteer-core';

export const stored = <T>(page: Page, table: string, key: string): Promise<T | undefined> =>
  page.evaluate(
    (name, id) =>
      new Promise<unknown>((resolve, reject) => {
        const open = indexedDB.open('bivoca');
        open.onerror = () => reject(open.error);
        open.onsuccess = () => {
          const get = open.result.transaction(name).objectStore(name).get(id);
          get.onsuccess = () => {
            open.result.close();
            resolve(get.result);
          };
        };
      }),
    table,
    key,
  ) as Promise<T | undefined>;
