import { strToU8, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { sampleDesk } from '#tests/support/sample-show';
import { readPackage } from './show-package';

const { show } = sampleDesk();
const clip = new Uint8Array(5000).map((_, i) => (i * 31) % 251);
const text = JSON.stringify({ show, assets: [{ id: 'asset', name: 'clip.mp4', type: 'video/mp4' }] });
const file = (contents: Parameters<typeof zipSync>[0]) =>
  zipSync({ 'show.json': strToU8(text), 'assets/asset': [clip, { level: 0 }], ...contents }) as Uint8Array<ArrayBuffer>;
const read = (bytes: Uint8Array<ArrayBuffer>) => readPackage(new Blob([bytes]));

describe('a show file', () => {
  it('is read with its files', async () => {
    const found = await read(file({}));
    expect(found.show).toEqual(show);
    expect(new Uint8Array(await (found.assets.get('asset')?.data as Blob).arrayBuffer())).toEqual(clip);
  });

  it('is refused when a single byte of what it holds has changed: the checksum says so', async () => {
    const whole = file({});
    const at = Buffer.from(whole).indexOf(Buffer.from(clip.subarray(0, 64)));
    for (let i = 0; i < 40; i += 1) {
      const bytes = whole.slice();
      bytes[at + i * 120] = (bytes[at + i * 120] as number) ^ 1;
      await expect(read(bytes)).rejects.toThrow('assets/asset in it cannot be unpacked, or its checksum is not right');
    }
  });

  it('is refused before it unpacks to a thousand times its size', async () => {
    const packed = file({ 'assets/other': [new Uint8Array(80e6), { level: 1 }] });
    const started = performance.now();
    await expect(read(packed)).rejects.toThrow(/assets\/other in it would unpack to 80 MB from 1 MB/);
    // Unpacking it would take several times as long on any machine.
    expect(performance.now() - started).toBeLessThan(5000);
    await expect(read(file({ 'show.json': [new Uint8Array(101e6).fill(32), { level: 1 }] }))).rejects.toThrow('show.json');
  });

  it('is refused when it is nested without end, is no zip, or holds no show', async () => {
    await expect(read(file({ 'show.json': strToU8(`{"show":${'['.repeat(5000)}${']'.repeat(5000)}}`) }))).rejects.toThrow('nested deeper');
    await expect(read(strToU8('no zip at all') as Uint8Array<ArrayBuffer>)).rejects.toThrow('it cannot be unpacked');
    await expect(read(zipSync({ 'other.json': strToU8('{}') }) as Uint8Array<ArrayBuffer>)).rejects.toThrow('no show.json');
  });
});
