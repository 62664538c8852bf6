import { describe, expect, it } from 'vitest';
import { fakeFrame } from '#tests/support/fake-frames';
import { FrameOutlet, takeFrames } from './frame-outlet';

/** A port that only counts. */
function fakePort() {
  const sent: unknown[] = [];
  const port = { sent, onmessage: null as (() => void) | null, postMessage: (m: unknown) => sent.push(m), close: () => undefined };
  return port as typeof port & MessagePort;
}

describe('an outlet of frames', () => {
  it('has no more frames on their way than are taken, closes the others, and goes on when they are', () => {
    const port = fakePort();
    const outlet = new FrameOutlet(port, 3);
    const frames = Array.from({ length: 10 }, (_, i) => fakeFrame(String(i)));
    for (const frame of frames) outlet.send({ frame, stamp: 0 });
    expect([port.sent.length, outlet.refused]).toEqual([3, 7]);
    expect(frames.map((f) => (f as unknown as { closed: boolean }).closed)).toEqual([
      false,
      false,
      false,
      ...Array.from({ length: 7 }, () => true),
    ]);
    port.onmessage?.();
    port.onmessage?.();
    for (let i = 0; i < 4; i += 1) outlet.send({ frame: fakeFrame('more'), stamp: 0 });
    expect([port.sent.length, outlet.refused]).toEqual([5, 9]);
  });

  it('is told by whoever takes from it', () => {
    const port = fakePort();
    const taken: unknown[] = [];
    takeFrames(port, ({ frame }) => taken.push(frame));
    (port.onmessage as unknown as (e: { data: unknown }) => void)({ data: { frame: 'one' } });
    expect([taken, port.sent]).toEqual([['one'], [null]]);
  });
});
