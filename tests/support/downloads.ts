/** The folder into which a browser of the tests saves files. */
import { mkdtemp, readdir, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type TestBrowser } from './browser';
import { until } from './desk';

export class Downloads {
  private constructor(readonly folder: string) {}

  static async of({ browser }: TestBrowser): Promise<Downloads> {
    const folder = await mkdtemp(join(tmpdir(), 'bivoca-downloads-'));
    const session = await browser.target().createCDPSession();
    await session.send('Browser.setDownloadBehavior', { behavior: 'allow', downloadPath: folder });
    return new Downloads(folder);
  }

  /** Path of a file whose name ends so, when it is whole: until then the browser gives it another name. */
  async path(ending: string): Promise<string> {
    return join(this.folder, await until(async () => (await readdir(this.folder)).find((f) => f.endsWith(ending)), `a file ${ending}`));
  }

  async bytes(ending: string): Promise<Buffer> {
    return readFile(await this.path(ending));
  }

  async close(): Promise<void> {
    await rm(this.folder, { recursive: true, force: true });
  }
}
