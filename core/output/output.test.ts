import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { must, sampleDesk } from '#tests/support/sample-show';
import { asRunCsv, onAirItems } from './as-run';
import { backoffMillis } from './backoff';
import { guardCell, unguardCell } from './csv';
import { recordingRoom, RESERVE_BYTES } from './storage-budget';

describe('the as-run log', () => {
  it('lists picture, lanes and black', () => {
    let desk = must(sampleDesk(), 'lane.setContent', { lane: 'lane-1', content: { kind: 'picture', id: 'card' } });
    desk = must(desk, 'lane.show', { lane: 'lane-1' }, 0);
    desk = must(desk, 'picture.take', {}, 30);
    expect(onAirItems(desk.show, desk.air, 40)).toEqual([
      { place: 'picture', what: 'Camera b', pictureId: 'b', how: 'dissolve' },
      { place: 'Names', what: 'Ada Holm, Pilot', how: 'fade' },
    ]);
    desk = must(desk, 'picture.fadeToBlack', {}, 60);
    expect(onAirItems(desk.show, desk.air, 200).at(-1)).toEqual({ place: 'black', what: 'Black', how: 'fade' });
  });

  it('is exported as CSV that a sheet reads and does not run', () => {
    const csv = asRunCsv(
      [{ place: 'picture', what: '=HYPERLINK("x"), "wide"', how: 'cut', startedAt: 0, startFrame: 0, endedAt: 2000, endFrame: 50 }],
      { num: 25, den: 1 },
    );
    const [head, line] = csv.split('\r\n');
    expect(head).toBe('place,what,how,who,from,from timecode,to,to timecode,frames');
    expect(line).toBe(
      'picture,"\'=HYPERLINK(""x""), ""wide""",cut,,1970-01-01T00:00:00.000Z,00:00:00:00,1970-01-01T00:00:02.000Z,00:00:02:00,50',
    );
  });
});

describe('cells of sheets', () => {
  it('come back as they went out, and none begins as a formula', () => {
    const text = fc.oneof(fc.string(), fc.constantFrom('=1', "'=1", "''+", '\r=1', '\t@x', ' -1', '-', "'", '\n=x'));
    fc.assert(
      fc.property(text, (t) => {
        expect(unguardCell(guardCell(t))).toBe(t);
        expect(guardCell(t)).not.toMatch(/^\s*[=+\-@]|^[\t\r]/);
      }),
    );
    for (const what of ['\r=1', ' =1', '\t+1'])
      expect(
        asRunCsv([{ place: 'picture', what, how: 'cut', startedAt: 0, startFrame: 0, endedAt: null, endFrame: null }], { num: 25, den: 1 }),
      ).toContain(`'${what}`);
  });
});

describe('trying again', () => {
  it('waits longer each time, up to a bound', () => {
    expect([1, 2, 3, 4, 5, 6, 100].map(backoffMillis)).toEqual([500, 1000, 2000, 4000, 8000, 8000, 8000]);
  });
});

describe('room on the disk', () => {
  it('warns early and stops while a file can still be finished', () => {
    expect(recordingRoom(1e12, 3e5)).toMatchObject({ warn: false, stop: false });
    expect(recordingRoom(RESERVE_BYTES + 3e5 * 299, 3e5)).toMatchObject({ warn: true, stop: false });
    expect(recordingRoom(RESERVE_BYTES, 3e5)).toMatchObject({ stop: true, secondsLeft: 0 });
    expect(recordingRoom(1e9, 0).secondsLeft).toBe(Infinity);
  });
});
