import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { FrameQueue } from './frame-queue';

/** Stands for a VideoFrame: counts how often it is closed. */
const fake = () => ({
  closed: 0,
  close() {
    this.closed += 1;
  },
});

describe('the frame queue', () => {
  it('shows the newest frame at or before the moment, and holds it', () => {
    const queue = new FrameQueue();
    const frames = [0, 40, 80].map((stamp) => {
      const frame = fake();
      queue.push(frame as unknown as VideoFrame, stamp);
      return frame;
    });
    expect(queue.at(-1)).toBeNull();
    expect(queue.at(39)?.frame).toBe(frames[0]);
    expect(queue.at(79)?.frame).toBe(frames[1]);
    expect(queue.at(500)?.frame).toBe(frames[2]);
    expect(queue.at(900)?.frame).toBe(frames[2]);
  });

  it('closes every frame exactly once, whatever the order of coming and showing', () => {
    const step = fc.oneof(fc.record({ push: fc.nat(2000) }), fc.record({ at: fc.nat(2000) }));
    fc.assert(
      fc.property(fc.array(step, { maxLength: 60 }), (steps) => {
        const queue = new FrameQueue();
        const frames: ReturnType<typeof fake>[] = [];
        for (const s of steps) {
          if ('push' in s) {
            const frame = fake();
            frames.push(frame);
            queue.push(frame as unknown as VideoFrame, s.push);
          } else expect((queue.at(s.at)?.frame as unknown as ReturnType<typeof fake> | undefined)?.closed ?? 0).toBe(0);
        }
        queue.clear();
        expect(frames.every((f) => f.closed === 1)).toBe(true);
      }),
    );
  });
});
