/** Another picture size keeps every share of the picture. */
import { describe, expect, it } from 'vitest';
import { attempt, must, sampleDesk } from '#tests/support/sample-show';
import { asksForHold } from '../desk/registry';

describe('another picture size', () => {
  const desk = () => {
    const added = attempt(sampleDesk(), 'layout.add', { starter: 'two' });
    if (!added.ok) throw new Error(added.error.message);
    return must(added.desk, 'lane.set', { lane: 'lane-1', rect: { x: 10, y: 20, width: 100, height: 50 } });
  };

  it('takes boxes and lanes with it', () => {
    const before = desk();
    const { width, height } = before.show.raster;
    const after = must(before, 'show.setRaster', { raster: { width: width * 2, height: height * 3 } });
    const box = before.show.layouts.at(-1)?.boxes[0];
    const scaled = after.show.layouts.at(-1)?.boxes[0];
    if (!box || !scaled) throw new Error('no box');
    expect(scaled.rect).toEqual({ x: box.rect.x * 2, y: box.rect.y * 3, width: box.rect.width * 2, height: box.rect.height * 3 });
    expect(scaled.crop).toEqual(box.crop);
    expect(after.show.lanes[0]?.rect).toEqual({ x: 20, y: 60, width: 200, height: 150 });
    // There and back nothing has moved.
    expect(must(after, 'show.setRaster', { raster: { width, height } }).show.layouts).toEqual(before.show.layouts);
  });

  it('leaves pixels alone where that is asked', () => {
    const before = desk();
    const after = must(before, 'show.setRaster', { raster: { width: 1280, height: 720 }, scale: false });
    expect(after.show.layouts).toEqual(before.show.layouts);
  });

  it('asks for a hold while something is on air', () => {
    const command = { type: 'show.setRaster', args: { raster: { width: 1280, height: 720 } } };
    const before = sampleDesk();
    expect(asksForHold({ ...before, air: { ...before.air, onAirId: null } }, command)).toBe(false);
    expect(asksForHold({ ...before, air: { ...before.air, onAirId: 'a' } }, command)).toBe(true);
  });
});
