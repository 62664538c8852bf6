import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { FakeDisk } from '#tests/support/fake-disk';
import { readWav } from '#tests/support/wav';
import { type SyncHandle } from '../storage/opfs';
import { type SoundChunk } from './chunk';
import { WavTrack } from './wav-track';

const START = 1000;

/** A track on a disk of its own, and what its file holds. */
async function setup(disk = new FakeDisk()) {
  const root = await disk.storage.getDirectory();
  const entry = await (await root.getDirectoryHandle('recordings')).getFileHandle('t.wav', { create: true });
  const handle = (await entry.createSyncAccessHandle()) as unknown as SyncHandle;
  const { port1, port2 } = new MessageChannel();
  port1.close();
  const track = new WavTrack(
    {
      id: 't',
      port: port2,
      info: {
        channels: 2,
        sampleRate: 48_000,
        description: 'Pier: Harbour',
        startedAt: new Date(2026, 5, 1, 12),
        timeReference: 12 * 3600 * 48_000,
      },
    },
    handle,
    START,
  );
  return { disk, track, file: () => readWav(Buffer.from(disk.bytesOf('recordings', 't.wav') as Uint8Array)) };
}

/** A chunk whose every sample tells where it belongs. */
const levelOf = (sample: number) => ((sample % 997) + 1) / 1000;
const chunk = (sample: number, length: number): SoundChunk => ({
  sample,
  channels: [0, 1].map((side) => Float32Array.from({ length }, (_, i) => levelOf(sample + i) * (side === 0 ? 1 : -1))),
});

describe('a sound track on disk', () => {
  it('has every sample at its place and silence where none came, whatever the chunks are', async () => {
    const pieces = fc.array(fc.record({ skip: fc.integer({ min: -300, max: 500 }), length: fc.integer({ min: 1, max: 400 }) }), {
      minLength: 1,
      maxLength: 20,
    });
    await fc.assert(
      fc.asyncProperty(pieces, async (list) => {
        const { track, file } = await setup();
        const covered = new Set<number>();
        let at = START;
        let end = START;
        for (const { skip, length } of list) {
          at = Math.max(0, at + skip);
          track.write(chunk(at, length));
          // What lies before the end of the file has been written already, as silence or sound.
          for (let s = Math.max(at, end); s < at + length; s += 1) covered.add(s);
          end = Math.max(end, at + length);
          at += length;
        }
        track.close();
        const { left, right, timeReference } = file();
        expect(left.length).toBe(end - START);
        expect(timeReference).toBe(12 * 3600 * 48_000);
        left.forEach((value, i) => {
          const wanted = covered.has(START + i) ? levelOf(START + i) : 0;
          if (Math.abs(value - wanted) > 1e-6 || Math.abs((right[i] as number) + wanted) > 1e-6)
            throw new Error(`sample ${i}: ${value}, not ${wanted}`);
        });
        expect(track.silence).toBe(left.length - covered.size);
      }),
      { numRuns: 60 },
    );
  });

  it('plays up to its last second when it is cut off in the middle', async () => {
    const { track, file } = await setup();
    for (let i = 0; i < 100; i += 1) track.write(chunk(START + i * 1600, 1600));
    // Nothing has closed it: the head counts what was written when it was last renewed.
    expect(file().left.length).toBe(144_000);
    expect(track.seconds).toBeCloseTo(100 / 30, 6);
    track.close();
    expect(file().left.length).toBe(160_000);
  });

  it('goes on a minute later when time has jumped by hours', async () => {
    const { track, file } = await setup();
    track.write(chunk(START, 100));
    track.write(chunk(START + 10 * 3600 * 48_000, 100));
    track.close();
    expect(track.silence).toBe(60 * 48_000);
    expect(file().left.length).toBe(200 + 60 * 48_000);
  });

  it('keeps what it has when the disk is full', async () => {
    const { disk, track, file } = await setup();
    track.write(chunk(START, 48_000));
    disk.quota = disk.used + 100;
    expect(() => track.write(chunk(START + 48_000, 4800))).toThrow('no room');
    track.close();
    expect(file().left.length).toBe(48_000);
    expect(disk.open).toBe(0);
  });

  it('says when a WAV file can hold no more', async () => {
    const { track } = await setup();
    // Four gigabytes but for less than the next 600 bytes.
    track.bytes = 0xffffffff - 654 - 599;
    expect(() => track.write(chunk(START, 100))).toThrow('a WAV file holds four hours; the track is full');
  });
});
