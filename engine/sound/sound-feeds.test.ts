import { describe, expect, it } from 'vitest';
import { BLOCK } from '#core/sound/dsp/stereo';
import { type SoundChunk } from './chunk';
import { LoudnessHistory } from './loudness-history';
import { PcmFeed } from './pcm-feed';
import { OutletWriter } from './outlet-writer';

/** Chunk of `length` samples whose values are their own numbers. */
const chunk = (sample: number, length: number): SoundChunk => ({ sample, channels: [Float32Array.from({ length }, (_, i) => sample + i)] });

/** A port whose messages arrive at once. */
function port(): { port: MessagePort; send: (data: unknown) => void; sent: unknown[] } {
  const fake = {
    onmessage: null as ((event: MessageEvent) => void) | null,
    close: () => undefined,
    postMessage: (data: unknown) => sent.push(data),
  };
  const sent: unknown[] = [];
  return { port: fake as unknown as MessagePort, send: (data) => fake.onmessage?.({ data } as MessageEvent), sent };
}

describe('a feed of chunks', () => {
  it('plays every sample at its own time, over the seams of chunks and with gaps as silence', () => {
    const { port: p, send } = port();
    const feed = new PcmFeed(p);
    send(chunk(100, 100));
    send(chunk(200, 50));
    send(chunk(300, 100));
    expect(feed.read(0)).toBe(true);
    expect([...feed.block.left.slice(98, 103)]).toEqual([0, 0, 100, 101, 102]);
    feed.read(BLOCK);
    expect([...feed.block.left.slice(198 - BLOCK, 202 - BLOCK)]).toEqual([198, 199, 200, 201]);
    expect(feed.block.left[251 - BLOCK]).toBe(0);
    feed.read(2 * BLOCK);
    expect(feed.block.right[300 - 2 * BLOCK]).toBe(300);
    expect(feed.read(900)).toBe(false);
  });

  it('forgets what is taken back', () => {
    const { port: p, send } = port();
    const feed = new PcmFeed(p);
    send(chunk(0, 200));
    send({ flush: 50 });
    feed.read(0);
    expect(feed.block.left[49]).toBe(49);
    expect(feed.block.left[50]).toBe(0);
  });

  it('counts what came too late, but not while a source begins', () => {
    const { port: p, send } = port();
    const feed = new PcmFeed(p);
    feed.read(1000);
    send(chunk(900, 100));
    expect(feed.late).toBe(0);
    feed.read(900 + 200_000);
    send(chunk(900 + 200_000 + 28, 200));
    expect(feed.late).toBe(100);
  });
});

describe('an outlet', () => {
  it('hands chunks on with the time of their first sample, and begins anew when time jumps', () => {
    const { port: p, sent } = port();
    const outlet = new OutletWriter(p);
    const block = { left: new Float32Array(BLOCK).fill(0.5), right: new Float32Array(BLOCK) };
    for (let b = 0; b < 15; b += 1) outlet.write(b % 2 ? block : null, 5000 + b * BLOCK);
    expect(sent).toHaveLength(1);
    const [first] = sent as SoundChunk[];
    expect(first?.sample).toBe(5000);
    expect([first?.channels[0]?.[0], first?.channels[0]?.[BLOCK]]).toEqual([0, 0.5]);
    outlet.write(block, 9000);
    outlet.restart();
    for (let b = 0; b < 15; b += 1) outlet.write(block, 20_000 + b * BLOCK);
    expect((sent as SoundChunk[])[1]?.sample).toBe(20_000);
  });
});

describe('the history of loudness', () => {
  it('keeps a point a second, begins anew with a measurement, and stands while one is stopped', () => {
    const history = new LoudnessHistory();
    const reading = {
      programme: { momentary: -20, shortTerm: -21, integrated: -22, range: 0, truePeak: -3, momentaryMax: 0, shortTermMax: 0, seconds: 0 },
    };
    for (let t = 0; t < 50; t += 1) history.add(100 + t / 5, reading);
    expect(history.of('programme').length).toBe(10);
    history.follow({ programme: { start: 7, stop: null } });
    expect(history.of('programme')).toEqual([]);
    history.add(200, reading);
    history.add(201, reading);
    expect(history.of('programme').map((p) => p.at)).toEqual([0, 1]);
    history.follow({ programme: { start: 7, stop: 60 } });
    history.add(203, reading);
    expect(history.of('programme')).toHaveLength(2);
  });
});
