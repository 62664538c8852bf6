import { describe, expect, it } from 'vitest';
import { SharedClock, wallMicros } from './shared-clock';

describe('the show clock', () => {
  it('is the same in every thread that joins its memory', () => {
    const host = new SharedClock();
    host.jumpTo(5e9);
    const worker = new SharedClock(host.memory);
    const wall = wallMicros();
    expect(worker.now(wall)).toBe(host.now(wall));
    expect(worker.now() - 5e9).toBeLessThan(1e6);
  });

  it('changes its pace without a step', () => {
    const clock = new SharedClock();
    clock.jumpTo(1e6);
    const before = clock.now();
    clock.steer(1.5);
    const wall = wallMicros();
    expect(clock.now(wall) - before).toBeLessThan(50_000);
    expect(clock.now(wall + 1e6) - clock.now(wall)).toBeCloseTo(1.5e6, 0);
    expect(clock.millisUntil(clock.now() + 1.5e6)).toBeCloseTo(1000, -1);
  });
});
