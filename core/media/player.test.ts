import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { attempt, CLIP, must, sampleDesk } from '#tests/support/sample-show';
import { type Desk } from '../desk/air';
import { type MediaSettings } from '../show/source';
import { playerState, stateOfPlayer } from './player';

const rate = { num: 25, den: 1 };
const stateAt = (desk: Desk, frame: number) => {
  const clip = desk.show.sources.find((s) => s.id === 'clip');
  return playerState(desk.air, 'clip', clip?.settings as MediaSettings, frame, rate);
};

describe('media player', () => {
  it('starts from its in point when taken, and holds at the end', () => {
    const desk = must(must(sampleDesk(), 'media.setPlayback', { source: 'clip', in: 2, out: 4 }), 'picture.cut', { picture: 'clip' }, 100);
    expect(stateAt(desk, 100)).toMatchObject({ position: 2, playing: true, left: 2 });
    expect(stateAt(desk, 125)).toMatchObject({ position: 3, left: 1 });
    expect(stateAt(desk, 150)).toMatchObject({ position: 4, playing: false, ended: true, black: false });
  });

  it('stands at its in point again when it has left air', () => {
    let desk = must(sampleDesk(), 'picture.cut', { picture: 'clip' }, 0);
    desk = must(desk, 'picture.cut', { picture: 'a' }, 50);
    expect(stateAt(desk, 60)).toMatchObject({ position: 0, playing: false });
  });

  it('loops without drifting', () => {
    const looping: MediaSettings = { ...CLIP, in: 1, out: 4, atEnd: 'loop' };
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 5_000_000 }), (frame) => {
        const { position, playing } = stateOfPlayer({ playing: true, start: 0, position: 1 }, looping, frame, rate);
        expect(playing).toBe(true);
        expect(position).toBeCloseTo(1 + (frame % 75) / 25, 6);
      }),
    );
  });

  it('pauses, seeks and goes on from there; playing at the end begins anew', () => {
    let desk = must(sampleDesk(), 'media.play', { source: 'clip' }, 0);
    desk = must(desk, 'media.pause', { source: 'clip' }, 50);
    expect(stateAt(desk, 500)).toMatchObject({ position: 2, playing: false });
    desk = must(desk, 'media.seek', { source: 'clip', position: 99 }, 500);
    expect(stateAt(desk, 500)).toMatchObject({ position: 10, ended: true });
    desk = must(desk, 'media.toggle', { source: 'clip' }, 600);
    expect(stateAt(desk, 625)).toMatchObject({ position: 1, playing: true });
  });

  it('refuses spans that leave nothing and places past the end', () => {
    expect(attempt(sampleDesk(), 'media.setPlayback', { source: 'clip', in: 5, out: 5 })).toMatchObject({
      ok: false,
      error: { code: 'empty-span' },
    });
    expect(attempt(sampleDesk(), 'media.setPlayback', { source: 'clip', out: 11 })).toMatchObject({
      ok: false,
      error: { code: 'past-end', field: 'out' },
    });
    expect(attempt(sampleDesk(), 'media.play', { source: 'a' })).toMatchObject({ ok: false, error: { code: 'not-media' } });
  });
});
