/** What a page holds on to once its garbage is collected. */
import { type Page } from 'puppeteer-core';

/** How many objects of a class there are still, by its prototype, such as `RTCPeerConnection.prototype`. */
export async function heldOf(page: Page, prototype: string): Promise<number> {
  const session = await page.createCDPSession();
  for (let i = 0; i < 3; i += 1) await session.send('HeapProfiler.collectGarbage');
  const { result } = await session.send('Runtime.evaluate', { expression: prototype });
  const { objects } = await session.send('Runtime.queryObjects', { prototypeObjectId: result.objectId ?? '' });
  const found = await session.send('Runtime.callFunctionOn', {
    objectId: objects.objectId ?? '',
    functionDeclaration: 'function () { return this.length; }',
    returnByValue: true,
  });
  await session.detach();
  return Number(found.result.value);
}
