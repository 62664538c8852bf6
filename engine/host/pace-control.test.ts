import { afterEach, describe, expect, it, vi } from 'vitest';
import { must, sampleDesk } from '#tests/support/sample-show';
import { noStats } from '../picture/messages';
import { PaceControl } from './pace-control';

const storage = (step: string | null) => vi.stubGlobal('localStorage', { getItem: () => step });
afterEach(() => vi.unstubAllGlobals());

/** Seconds of which every one has 25 frames, so many of them late. */
function seconds(pace: PaceControl, desk: ReturnType<typeof sampleDesk>, count: number, late: number, from = 0): boolean[] {
  return Array.from({ length: count }, (_, i) => {
    const n = from + i + 1;
    return pace.second({ ...noStats(), frames: n * 25, late: n * late, drawMs: 20, usualMs: 20 }, desk, 1);
  });
}

describe('the pace of a window’s engine', () => {
  it('steps down while frames are late, monitors first, and says what and why', () => {
    storage(null);
    const pace = new PaceControl();
    const desk = sampleDesk();
    expect(pace.format(desk)).toMatchObject({ raster: { width: 64, height: 36 }, notice: '', brief: '' });
    expect(seconds(pace, desk, 4, 10)).toContain(true);
    expect(pace.format(desk).notice).toMatch(/late with 40 % of its frames: working with fewer pictures/);
    expect(pace.format(desk).raster).toEqual({ width: 64, height: 36 });
  });

  it('counts what happens in each second, not since the start', () => {
    storage(null);
    const pace = new PaceControl();
    const desk = sampleDesk();
    pace.second({ ...noStats(), frames: 1000, late: 900, drawMs: 1, usualMs: 1 }, desk, 1);
    for (let i = 1; i < 60; i += 1)
      expect(pace.second({ ...noStats(), frames: 1000 + i * 25, late: 900, drawMs: 1, usualMs: 1 }, desk, 1)).toBe(false);
  });

  it('leaves the raster alone while something records', () => {
    storage(null);
    const pace = new PaceControl();
    const large = sampleDesk();
    large.show.raster = { width: 1280, height: 720 };
    seconds(pace, must(large, 'output.startRecording'), 200, 20);
    expect(pace.format(large).raster).toEqual({ width: 1280, height: 720 });
    seconds(pace, large, 60, 20, 200);
    expect(pace.format(large).raster.width).toBeLessThan(1280);
  });

  it('is held by hand for finding faults', () => {
    storage('5');
    const pace = new PaceControl();
    const desk = sampleDesk();
    desk.show.raster = { width: 1280, height: 720 };
    expect(seconds(pace, desk, 30, 20)).not.toContain(true);
    expect(pace.format(desk)).toMatchObject({ raster: { width: 640, height: 360 }, brief: '640×360' });
  });
});
