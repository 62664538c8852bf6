import { describe, expect, it } from 'vitest';
import { FramePulse } from './frame-pulse';

describe('the frames that sound follows', () => {
  it('are those of the mixer while it mixes, each once', () => {
    let due = 0;
    const applied: number[] = [];
    const pulse = new FramePulse(
      () => due,
      (frame) => applied.push(frame),
    );
    for (due = 1; due <= 5; due += 1) {
      pulse.mixed(due);
      pulse.beat();
      pulse.beat();
    }
    expect(applied).toEqual([1, 2, 3, 4, 5]);
  });

  it('go on with the show clock while the mixer stands still, and are the mixer’s again when it is back', () => {
    let due = 10;
    const applied: number[] = [];
    const pulse = new FramePulse(
      () => due,
      (frame) => applied.push(frame),
    );
    pulse.mixed(10);
    for (const now of [11, 12, 13, 20, 21, 24]) {
      due = now;
      pulse.beat();
    }
    // Frames that the mixer catches up with are over: sound has gone past them.
    for (const late of [11, 12, 24, 25]) pulse.mixed(late);
    expect(applied).toEqual([10, 13, 20, 24, 25]);
  });

  it('do not begin before the mixer has', () => {
    const applied: number[] = [];
    new FramePulse(
      () => 1000,
      (frame) => applied.push(frame),
    ).beat();
    expect(applied).toEqual([]);
  });
});
