import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { type Desk } from '#core/desk/air';
import { FakeFrame, fakeFrame, shown, useFakeFrames } from '#tests/support/fake-frames';
import { must, replayDesk } from '#tests/support/sample-show';
import { type FrameMessage } from '../picture/messages';
import { type SoundChunk, type SoundFlush } from '../sound/chunk';
import { DeckPlayer } from './deck-player';
import { type DecksDesk } from './messages';
import { type PictureCache } from './picture-cache';
import { type SoundCache } from './sound-cache';

const FRAME = 40_000;
const SAMPLES = 1920;

beforeEach(() => {
  useFakeFrames();
});

afterEach(() => {
  vi.unstubAllGlobals();
});

/** Deck 1 over recorded pictures that show their frame number, and a sound whose every sample is its place on the timeline. */
function setup(recordedUntil = 1000) {
  const made = { pictures: [] as string[], sounds: [] as (SoundChunk | SoundFlush)[], wished: [] as number[] };
  const pictures = {
    frameAt: (angle: string, micros: number, rate: number) => {
      made.wished.push(rate);
      const frame = Math.floor(micros / FRAME + 1e-6);
      return Promise.resolve(frame < recordedUntil ? fakeFrame(`${angle} ${frame}`, frame * FRAME) : null);
    },
  } as unknown as PictureCache;
  const sounds = {
    read: (_track: string, from: number, count: number, step: number) =>
      Promise.resolve([0, 1].map(() => Float32Array.from({ length: count }, (_, i) => from + i * step))),
  } as unknown as SoundCache;
  const port = (name: string) =>
    ({
      postMessage: ({ frame, stamp, flush }: FrameMessage) => {
        made.pictures.push(`${name}${shown(frame)} at ${stamp / FRAME}${flush ? ' flush' : ''}`);
        frame.close();
      },
      close: () => undefined,
    }) as unknown as MessagePort;
  const player = new DeckPlayer(
    1,
    {
      frames: port(''),
      second: port('second '),
      sound: {
        postMessage: (message: SoundChunk | SoundFlush) => made.sounds.push(message),
        close: () => undefined,
      } as unknown as MessagePort,
    },
    { num: 25, den: 1 },
    pictures,
    sounds,
    (stamp) => fakeFrame('nothing', stamp),
  );
  return { made, player };
}

const decks = ({ show, air }: Desk): DecksDesk => ({ replay: air.replay, settings: show.replay.settings, angles: show.replay.angles });
const never = () => false;

/** Deck 1 on angle a at frame 100 of the timeline, with the sound of a, in the 200th frame of the show. */
function standing(): Desk {
  const desk = must(must(replayDesk(), 'replay.setAngleSound', { angle: 'a', sound: 'a' }, 200), 'deck.goTo', { deck: 1, frame: 100 }, 200);
  return must(desk, 'deck.setAngle', { deck: 1, angle: 'a' }, 200);
}

describe('the pictures of a deck', () => {
  it('that come when it is closed already are sent no more, and do not stay open', async () => {
    const { made, player } = setup();
    const showing = player.show(decks(standing()), 200, false, never);
    player.close();
    await showing;
    expect(made.pictures).toEqual([]);
    expect(FakeFrame.open).toBe(0);
  });

  it('that stands are sent once, and anew when it was moved', async () => {
    const { made, player } = setup();
    const desk = standing();
    for (const frame of [200, 201, 202]) await player.show(decks(desk), frame, false, never);
    expect(made.pictures).toEqual(['a 100 at 200']);
    player.changed();
    const stepped = must(desk, 'deck.step', { deck: 1, frames: -1 }, 203);
    await player.show(decks(stepped), 203, true, never);
    expect(made.pictures).toEqual(['a 100 at 200', 'a 99 at 203 flush']);
    expect(FakeFrame.open).toBe(0);
  });

  it('that plays are one for each frame, at half speed every second one, and the cache hears which way it goes', async () => {
    const { made, player } = setup();
    const playing = must(standing(), 'deck.play', { deck: 1 }, 210);
    for (let frame = 210; frame < 214; frame += 1) await player.show(decks(playing), frame, false, never);
    expect(made.pictures).toEqual(['a 100 at 210', 'a 101 at 211', 'a 102 at 212', 'a 103 at 213']);
    expect(new Set(made.wished)).toEqual(new Set([1]));
    player.changed();
    made.pictures.length = 0;
    const slow = must(playing, 'deck.setSpeed', { deck: 1, speed: 50 }, 220);
    for (let frame = 220; frame < 226; frame += 1) await player.show(decks(slow), frame, false, never);
    expect(made.pictures.filter((p) => !p.startsWith('second')).map((p) => p.split(' ')[1])).toEqual(['110', '111', '112']);
    expect(made.wished.at(-1)).toBe(0.5);
  });

  it('are a plate in a gap, once; what comes too late is thrown away', async () => {
    const { made, player } = setup(102);
    const playing = must(standing(), 'deck.play', { deck: 1 }, 210);
    for (let frame = 210; frame < 216; frame += 1) await player.show(decks(playing), frame, false, never);
    expect(made.pictures).toEqual(['a 100 at 210', 'a 101 at 211', 'nothing at 212']);
    player.changed();
    await player.show(decks(playing), 211, false, () => true);
    expect(made.pictures).toHaveLength(3);
    expect(FakeFrame.open).toBe(0);
  });
});

describe('the sound of a deck', () => {
  const chunks = (made: ReturnType<typeof setup>['made']) => made.sounds.filter((m): m is SoundChunk => 'channels' in m);

  it('follows its picture sample by sample, without a seam, however often it is asked', async () => {
    const { made, player } = setup();
    const playing = must(standing(), 'deck.play', { deck: 1 }, 210);
    for (const until of [211, 211, 211.5, 214, 214.2]) await player.sound(decks(playing), 210, until * FRAME, never);
    expect(made.sounds[0]).toEqual({ flush: 210 * SAMPLES });
    const all = chunks(made);
    expect(all[0]?.sample).toBe(210 * SAMPLES);
    let next = 210 * SAMPLES;
    for (const { sample, channels } of all) {
      expect(sample).toBe(next);
      // Show frame 210 is frame 100 of the timeline.
      expect([channels[0]?.[0], channels[0]?.at(-1)]).toEqual([
        sample - 110 * SAMPLES,
        sample - 110 * SAMPLES + (channels[0]?.length ?? 0) - 1,
      ]);
      next += channels[0]?.length ?? 0;
    }
    expect(next).toBe(215 * SAMPLES);
  });

  it('is silent backwards and, unless that is wanted, at other speeds; what was sent ahead is taken back', async () => {
    const { made, player } = setup();
    const playing = must(standing(), 'deck.play', { deck: 1 }, 210);
    await player.sound(decks(playing), 210, 213 * FRAME, never);
    player.changed();
    const back = must(playing, 'deck.reverse', { deck: 1 }, 212);
    const before = chunks(made).length;
    await player.sound(decks(back), 212, 216 * FRAME, never);
    expect(chunks(made).length).toBe(before);
    expect(made.sounds.at(-1)).toEqual({ flush: 212 * SAMPLES });
    const slow = must(must(back, 'deck.play', { deck: 1 }, 216), 'deck.setSpeed', { deck: 1, speed: 50 }, 216);
    player.changed();
    await player.sound(decks(slow), 216, 218 * FRAME, never);
    expect(chunks(made).length).toBe(before);
    const wanted = must(slow, 'replay.set', { soundAtSpeed: true }, 218);
    player.changed();
    await player.sound(decks(wanted), 218, 219 * FRAME, never);
    const last = chunks(made).at(-1)?.channels[0] as Float32Array;
    expect((last[1] as number) - (last[0] as number)).toBe(0.5);
  });

  it('after a long pause begins near the present, and does not make up for what nobody heard', async () => {
    const { made, player } = setup();
    const playing = must(standing(), 'deck.play', { deck: 1 }, 210);
    await player.sound(decks(playing), 210, 211 * FRAME, never);
    const before = chunks(made).length;
    await player.sound(decks(playing), 210, 400 * FRAME, never);
    expect(
      chunks(made)
        .slice(before)
        .map((c) => c.sample),
    ).toEqual([399 * SAMPLES]);
  });
});
