import { describe, expect, it } from 'vitest';
import { must, sampleDesk } from '#tests/support/sample-show';
import { showRow } from '#tests/support/show-row';
import { leftDesk } from '../storage/left-show';
import { stillClient } from './still-client';

const desk = must(sampleDesk(), 'picture.cut', {}, 10);
const row = showRow({ show: desk.show, epoch: 1000 });
const last = { showId: 'show', air: desk.air, savedFrame: 20 };

describe('a show that does not run yet', () => {
  it('is seen as it was left, at the frame at which it goes on', () => {
    const left = leftDesk(row, last, 3000);
    expect(left?.desk.air).toMatchObject({ onAirId: 'b', nextId: 'a' });
    // Two seconds have passed.
    expect(left?.frame).toBe((2 * desk.show.rate.num) / desk.show.rate.den);
    expect(leftDesk(row, last, 1000)?.frame).toBe(21);
    expect(leftDesk(row, undefined, 3000)?.desk.air.onAirId).toBeNull();
  });

  it('is not seen before an older one is brought up to date', () => {
    expect(leftDesk({ ...row, show: { ...desk.show, version: 1 } }, last, 3000)).toBeNull();
  });

  it('refuses every command in words, and stands still', async () => {
    const client = stillClient(desk, 50);
    const before = client.state;
    const done = client.dispatch({ type: 'picture.take' });
    expect(done).toMatchObject({ ok: false, error: { message: expect.stringContaining('is opening') } });
    expect(client.dispatchAll([{ type: 'picture.take' }, { type: 'picture.cut' }])).toEqual(done);
    await expect(client.files.add(new File([], 'a.png'))).rejects.toThrow('is opening');
    await expect(client.ways.make('guest', 'g', null)).rejects.toThrow('is opening');
    expect(client.state).toBe(before);
    expect(client.state).toMatchObject({ frame: 50, desk: { air: { onAirId: 'b' } } });
    expect(client.store.getState().desk).toBe(client.state.desk);
  });
});
