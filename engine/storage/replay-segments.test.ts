import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { type FakeDisk, useFakeDisk } from '#tests/support/fake-disk';
import { type StoredSegment } from '../replay/messages';
import { type Packet, readPackets, type TrackConfig } from '../replay/segment-format';
import { SegmentWriter } from '../replay/segment-writer';
import { db } from './db';
import {
  addSegment,
  dropReplayOf,
  dropSegments,
  finishSegment,
  openSegment,
  recoverSegments,
  segmentFile,
  storedSegments,
} from './replay-segments';

const CONFIG: TrackConfig = { kind: 'picture', codec: 'avc1', width: 4, height: 2, description: '' };
const packet = (frame: number): Packet => ({
  key: frame % 4 === 0,
  stamp: frame * 40_000,
  duration: 40_000,
  data: new Uint8Array(20).fill(frame),
});

let disk: FakeDisk;

beforeEach(async () => {
  disk = useFakeDisk();
  await db.replaySegments.clear();
});

afterEach(() => {
  vi.unstubAllGlobals();
});

/** Writes frames `from` to `to`; closed and noted unless `crash` says that it all ended in the middle. */
async function write(id: string, from: number, to: number, { crash = false, noted = true, showId = 'show' } = {}): Promise<StoredSegment> {
  const failed: string[] = [];
  const writer = new SegmentWriter(id, 'line', CONFIG, from * 40_000, showId, (message) => failed.push(message));
  if (noted) await addSegment(showId, structuredClone(writer.segment));
  for (let f = from; f < to; f += 1) writer.add(packet(f));
  await new Promise((resolve) => setTimeout(resolve, 2));
  if (crash) return structuredClone(writer.segment);
  await writer.close();
  if (noted) await finishSegment(showId, writer.segment);
  expect(failed).toEqual([]);
  return writer.segment;
}

describe('the index of replay segments', () => {
  it('lists what is complete, in order of time, and reads it back group by group', async () => {
    const late = await write('late', 40, 48);
    const early = await write('early', 0, 8);
    await write('open', 80, 84, { crash: true });
    expect(await storedSegments('show')).toEqual([early, late]);
    expect(await storedSegments('another')).toEqual([]);
    const reader = await openSegment('late');
    const [first, second] = late.groups;
    const packets = readPackets(await reader.read(first?.offset ?? NaN, second?.offset ?? NaN));
    expect(packets.map((p) => [p.stamp / 40_000, p.data[0], p.key])).toEqual([
      [40, 40, true],
      [41, 41, false],
      [42, 42, false],
      [43, 43, false],
    ]);
    reader.close();
    await expect(openSegment('gone')).rejects.toThrow('no such file');
  });

  it('finds after a crash what was written up to then, without half a packet', async () => {
    const whole = await write('whole', 0, 8);
    const cut = await write('cut', 8, 15, { crash: true });
    const bytes = disk.bytesOf('replay', 'cut') as Uint8Array;
    disk.put('replay', 'cut', bytes.subarray(0, bytes.length - 5));
    const found = await recoverSegments('show');
    expect(found.map((s) => [s.id, s.from / 40_000, s.to / 40_000, s.frames])).toEqual([
      ['whole', 0, 8, 8],
      ['cut', 8, 14, 6],
    ]);
    expect(found[0]).toEqual(whole);
    expect(found[1]?.groups).toEqual(cut.groups);
    // From then on it is a segment like any other.
    expect(await storedSegments('show')).toEqual(found);
  });

  it('finds files that no row tells of, and leaves those of other shows alone', async () => {
    await write('lost', 0, 4, { noted: false });
    await write('theirs', 0, 4, { noted: false, showId: 'another' });
    disk.put('replay', 'rubbish', new Uint8Array([1, 2, 3]));
    expect((await recoverSegments('show')).map((s) => s.id)).toEqual(['lost']);
    expect((await recoverSegments('show')).map((s) => s.id)).toEqual(['lost']);
    expect(disk.namesIn('replay')).toEqual(['lost', 'rubbish', 'theirs']);
  });

  it('drops what holds nothing: empty segments, and rows whose file is gone or unreadable', async () => {
    await write('empty', 0, 0);
    await write('gone', 0, 4, { crash: true });
    await write('rubbish', 4, 8, { crash: true });
    disk.put('replay', 'rubbish', new Uint8Array(7));
    await dropSegments([]);
    await (await segmentFile('gone')).arrayBuffer();
    disk.put('replay', 'gone', new Uint8Array(0));
    expect(await recoverSegments('show')).toEqual([]);
    expect(await db.replaySegments.count()).toBe(0);
    expect(disk.namesIn('replay')).toEqual([]);
  });

  it('goes with its shows', async () => {
    await write('mine', 0, 4);
    await write('old', 0, 4, { showId: 'old show' });
    await dropReplayOf(['old show', 'never was']);
    expect((await db.replaySegments.toArray()).map((r) => r.id)).toEqual(['mine']);
    expect(disk.namesIn('replay')).toEqual(['mine']);
  });
});
