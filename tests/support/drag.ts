/** Drags by the browser's own dragging: what is given over is what the page itself puts into it. */
import { type ElementHandle, type Page } from 'puppeteer-core';

export async function drag(page: Page, from: ElementHandle | null, to: ElementHandle | null): Promise<void> {
  await page.evaluate(
    (a, b) => {
      const dataTransfer = new DataTransfer();
      a?.dispatchEvent(new DragEvent('dragstart', { bubbles: true, dataTransfer }));
      b?.dispatchEvent(new DragEvent('dragover', { bubbles: true, cancelable: true, dataTransfer }));
      b?.dispatchEvent(new DragEvent('drop', { bubbles: true, cancelable: true, dataTransfer }));
    },
    from,
    to,
  );
}
