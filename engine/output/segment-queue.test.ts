import { describe, expect, it } from 'vitest';
import { RefusedError, type Segment, SegmentQueue } from './segment-queue';

const segment = (n: number, seconds = 2): Segment => ({ path: `video/${n}`, data: new Uint8Array(10), seconds });

/** A destination that can be away, and pauses that end when the test says. */
function setup(capacitySeconds = 10) {
  const taken: string[] = [];
  const pauses: number[] = [];
  const world = { away: null as Error | null, resume: () => undefined as void };
  const queue = new SegmentQueue({
    capacitySeconds,
    send: async ({ path }) => {
      if (world.away) throw world.away;
      taken.push(path);
    },
    pause: (ms) => {
      pauses.push(ms);
      return new Promise((resolve) => {
        world.resume = resolve;
      });
    },
  });
  const settle = () => new Promise((resolve) => setTimeout(resolve, 5));
  return { queue, taken, pauses, world, settle };
}

describe('the segment queue', () => {
  it('sends in order, one after another', async () => {
    const { queue, taken, settle } = setup();
    [1, 2, 3].forEach((n) => queue.push(segment(n)));
    await settle();
    expect(taken).toEqual(['video/1', 'video/2', 'video/3']);
    expect(queue.state).toBe('live');
  });

  it('waits longer each time while the destination is away, then goes on with what it kept', async () => {
    const { queue, taken, pauses, world, settle } = setup();
    world.away = new Error('gone');
    [1, 2].forEach((n) => queue.push(segment(n)));
    for (let i = 0; i < 3; i += 1) {
      await settle();
      world.resume();
    }
    await settle();
    expect(pauses).toEqual([500, 1000, 2000, 4000]);
    expect([queue.state, queue.trouble]).toEqual(['retrying', 'gone']);
    world.away = null;
    world.resume();
    await settle();
    expect(taken).toEqual(['video/1', 'video/2']);
    expect([queue.state, queue.reconnects, queue.dropped, queue.trouble]).toEqual(['live', 1, 0, '']);
  });

  it('is bounded: gives up the oldest, never an init segment, and counts what is lost', async () => {
    const { queue, taken, world, settle } = setup(6);
    world.away = new RefusedError('401');
    queue.push(segment(0, 0));
    for (let n = 1; n <= 10; n += 1) queue.push(segment(n));
    await settle();
    expect(queue.queuedSeconds).toBeLessThanOrEqual(6);
    expect([queue.dropped, queue.lostSeconds]).toEqual([7, 14]);
    world.away = null;
    world.resume();
    await settle();
    expect(taken).toEqual(['video/0', 'video/8', 'video/9', 'video/10']);
  });

  it('ends in bounded time and says what could not be sent', async () => {
    const { queue, world, settle } = setup();
    world.away = new Error('gone');
    queue.push(segment(1));
    await settle();
    const end = queue.finish(1);
    world.resume();
    expect(await end).toBe(2);
  });
});
