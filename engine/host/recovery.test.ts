import { describe, expect, it } from 'vitest';
import { must, sampleDesk } from '#tests/support/sample-show';
import { showRow } from '#tests/support/show-row';
import { sceneOf } from '#core/picture/scene';
import { recoverAir } from './recovery';

describe('coming back after an interruption', () => {
  it('expects guests back to where they were: until they come their card stands there', () => {
    let desk = must(sampleDesk(), 'guest.add', { name: 'Vik' });
    const { id, sourceId } = desk.show.guests.list[0]!;
    desk = must(must(desk, 'guest.report', { guest: id, line: 'in' }, 500), 'guest.admit', { guest: id }, 510);
    const { air } = recoverAir(showRow({ show: desk.show }), desk.air);
    expect(air.guests.now[id]).toMatchObject({ state: 'admitted', lost: true });
    expect(sceneOf(desk.show, air, sourceId, 520)[0]?.texture).toMatchObject({ kind: 'seat', name: 'Vik' });
  });

  it('begins empty and without a word when the show was never opened', () => {
    const { air, notices } = recoverAir(showRow({}), null);
    expect([air.onAirId, notices]).toEqual([null, []]);
  });

  it('puts the same picture on air and says what was interrupted', () => {
    const desk = must(must(must(sampleDesk(), 'picture.cut', {}, 10), 'output.startRecording'), 'output.startStream');
    const { air, notices } = recoverAir(showRow({ openSince: 5 }), desk.air);
    expect(air).toMatchObject({ onAirId: 'b', nextId: 'a', recording: null, stream: null });
    expect(notices.join(' ')).toMatch(/Camera b is on air again.*recording was interrupted.*stream was interrupted/);
  });

  it('ends a transition that an older Bivoca has left in the middle', () => {
    const { air } = must(sampleDesk(), 'picture.take', {}, 10);
    expect(recoverAir(showRow({}), air).air.transition).not.toBeNull();
    expect(recoverAir(showRow({}), air, 1).air).toMatchObject({ onAirId: 'b', transition: null });
  });

  it('says nothing after a clean end', () => {
    expect(recoverAir(showRow({}), sampleDesk().air).notices).toEqual([]);
  });

  it('gives lanes that the saved air does not know a state of their own', () => {
    const { air } = sampleDesk();
    expect(Object.keys(recoverAir(showRow({}), { ...air, lanes: {} }).air.lanes)).toEqual(['lane-1', 'lane-2', 'lane-3']);
  });
});
