/** Everything that a step can wait for: what it is called, what it is about, and when it has ended. Pure. */
import { type Desk } from '../desk/air';
import { clockFrames, readClock, timeOfDay } from '../graphics/clocks';
import { playerState } from '../media/player';
import { laneFade } from '../picture/air';
import { transitionPosition } from '../picture/transition';
import { rollPlace } from '../replay/roll';
import { type RefTarget } from '../schema/kinds';
import { type Rate } from '../time/rate';
import { type Run } from './air';
import { type UntilAct, type UntilEvent, type WaitAct } from './document';

interface WaitTraits {
  /** What has to come, as it is chosen: "it waits until …". */
  words: string;
  /** What comes after the name of the thing it is about: "Wait until *Heat clock* has ended". */
  after?: string;
  /** The field that says which thing it is about, and what may stand there. */
  of?: { field: keyof UntilAct; to: RefTarget };
  /** Frame at which it has come, as far as that can be told now; null while it cannot. What does not run has ended. */
  ends: (desk: Desk, act: UntilAct, run: Run) => number | null;
}

const DAY = 86_400;

/** Frames that a wait lasts. */
export const waitFrames = ({ amount, unit }: WaitAct, { num, den }: Rate): number =>
  Math.round(unit === 'frames' ? amount : (amount * num) / den);

const framesOf = (seconds: number, { num, den }: Rate): number => Math.ceil((seconds * num) / den - 1e-6);

export const WAITS: Record<UntilEvent, WaitTraits> = {
  press: {
    words: 'a press',
    ends: (_, _act, { pressed }) => pressed,
  },
  transition: {
    words: 'the transition has ended',
    ends: ({ air }, _act, { since }) => {
      const t = air.transition;
      if (!t) return since;
      if (t.mode === 'bar') return transitionPosition(t, since) >= 1 ? since : null;
      return t.start + t.frames;
    },
  },
  clock: {
    words: 'a clock has ended',
    after: 'has ended',
    of: { field: 'clockId', to: 'clock' },
    ends: ({ show, air }, { clockId }, { since }) => {
      const clock = show.graphics.clocks.find((c) => c.id === clockId);
      if (!clock || clock.kind === 'day' || clock.kind === 'up') return since;
      const reading = readClock(clock, air.graphics, since, show.rate);
      if (reading.seconds === null) return null;
      if (clock.kind === 'until') return reading.seconds <= 0 ? since : since + framesOf(reading.seconds, show.rate);
      const state = air.graphics.clocks[clock.id];
      const left = framesOf(clock.seconds, show.rate) - clockFrames(state, since);
      if (left <= 0) return since;
      return (state?.start ?? null) === null ? null : Math.max(since, state?.start ?? 0) + left;
    },
  },
  lanes: {
    words: 'nothing moves in the lanes',
    ends: ({ air }, _act, { since }) =>
      Object.values(air.lanes).reduce((last, lane) => {
        const fade = laneFade(lane, since);
        return Math.max(last, fade.start + fade.frames, lane.leaving ? lane.leaving.fade.start + lane.leaving.fade.frames : 0);
      }, since),
  },
  media: {
    words: 'media has played',
    after: 'has played',
    of: { field: 'sourceId', to: 'source' },
    ends: ({ show, air }, { sourceId }, { since }) => {
      const source = show.sources.find((s) => s.id === sourceId);
      if (source?.settings.kind !== 'media') return since;
      const { left, playing, ended } = playerState(air, source.id, source.settings, since, show.rate);
      if (!playing) return ended ? since : null;
      return source.settings.atEnd === 'loop' ? null : since + framesOf(left, show.rate);
    },
  },
  roll: {
    words: 'a play-out has ended',
    ends: ({ air }, { deck }, { since }) => {
      const { roll, motion } = deck === null ? { roll: null, motion: { kind: 'live' as const } } : air.replay.decks[deck];
      if (!roll || motion.kind === 'live') return since;
      const { left, ended } = rollPlace(roll, motion.position, motion.kind === 'play' ? Math.max(0, since - motion.start) : 0);
      if (ended) return since;
      return motion.kind === 'play' && motion.rate > 0 && Number.isFinite(left) ? since + Math.ceil(left) : null;
    },
  },
  macro: {
    words: 'a macro has run',
    after: 'has run',
    of: { field: 'macroId', to: 'macro' },
    ends: ({ air }, { macroId }, { since }) => (Object.values(air.automation.runs).some((r) => r.macroId === macroId) ? null : since),
  },
  time: {
    words: 'a time of day',
    ends: ({ show, air }, { time }, { since }) => {
      const now = timeOfDay(air.graphics.day, since, show.rate);
      if (now === null || time === null) return null;
      // What was up to twelve hours ago has been; later today, or after midnight, it comes.
      const ahead = (((time - now) % DAY) + DAY) % DAY;
      return ahead > DAY / 2 ? since : since + framesOf(ahead, show.rate);
    },
  },
};
