/** Holes in messages: `{clock: Heat clock}` and the like are filled from clocks, graphics on air and tally at the moment of sending. */
import { type Desk } from '../desk/air';
import { clockText, timeOfDay, wholeSeconds } from '../graphics/clocks';
import { clockNamed, findGraphic } from '../graphics/find';
import { valueOf, wordsOf } from '../graphics/values';
import { entityNamed } from '../desk/entities';
import { pictureName } from '../desk/pictures';
import { laneIsUp } from '../picture/air';
import { type Tally, tallyOf } from '../picture/tally';
import { formatDay } from '../time/day';

/** What is known when a message is filled. */
interface Filling {
  desk: Desk;
  frame: number;
  /** What whoever sends it gives along. */
  value: string;
  tally: () => Record<string, Tally>;
}

interface HoleTraits {
  /** How it is written, for people. */
  form: string;
  about: string;
  /** Its text; words of a fault where it names what is not there. */
  fill: (filling: Filling, words: string) => { text: string } | { fault: string };
}

const gone = (what: string, name: string) => ({ fault: name === '' ? `which ${what}?` : `no ${what} is called “${name.slice(0, 60)}”` });
const nameOfPicture = ({ desk: { show } }: Filling, id: string | null): string => (id === null ? '' : pictureName(show, id));

/** Words for on air, Next and neither, where a hole gives none of its own. */
const TALLY_WORDS = ['air', 'next', 'off'];

export const HOLES = {
  clock: {
    form: '{clock: Heat clock}',
    about: 'what a clock says',
    fill: ({ desk: { show, air }, frame }, words) => {
      const clock = clockNamed(show, words);
      if (!clock) return gone('clock', words);
      return { text: clockText(clock, air.graphics, 'm:ss', 0, frame, show.rate)?.text ?? '' };
    },
  },
  seconds: {
    form: '{seconds: Heat clock}',
    about: 'its whole seconds',
    fill: ({ desk: { show, air }, frame }, words) => {
      const clock = clockNamed(show, words);
      if (!clock) return gone('clock', words);
      return { text: String(wholeSeconds(clock, air.graphics, frame, show.rate) ?? '') };
    },
  },
  entry: {
    form: '{entry: Names / Name}',
    about: 'a field of what a lane shows; nothing while it is down',
    fill: ({ desk: { show, air }, frame }, words) => {
      const [laneName = '', fieldName = ''] = words.split('/').map((w) => w.trim());
      const lane = entityNamed(show, 'lane', laneName);
      if (!lane) return gone('lane', laneName);
      const state = air.lanes[lane.id];
      if (!state || !laneIsUp(state, frame)) return { text: '' };
      const found = findGraphic(show, state.picture?.id ?? null);
      if (!found) return { text: '' };
      const field = found.graphic.fields.find((f) => f.name.toLowerCase() === fieldName.toLowerCase());
      return { text: field ? wordsOf(valueOf(field, found.entry?.values ?? [])) : '' };
    },
  },
  tally: {
    form: '{tally: Flight line | on | dim | off}',
    about: 'one word while a picture is on air, one while it is Next, one otherwise; without them air, next, off',
    fill: ({ desk: { show }, tally }, words) => {
      const [name = '', ...said] = words.split('|').map((w) => w.trim());
      const picture = entityNamed(show, 'picture', name);
      if (!picture) return gone('picture', name);
      const role = tally()[picture.id];
      const at = role?.onAir || role?.inUse ? 0 : role?.next || role?.nextInUse ? 1 : 2;
      return { text: (said.length > 0 ? said : TALLY_WORDS)[at] ?? '' };
    },
  },
  air: { form: '{air}', about: 'the name of what is on air', fill: (f) => ({ text: nameOfPicture(f, f.desk.air.onAirId) }) },
  next: { form: '{next}', about: 'the name of what is in Next', fill: (f) => ({ text: nameOfPicture(f, f.desk.air.nextId) }) },
  time: {
    form: '{time}',
    about: 'the time of day',
    fill: ({ desk: { show, air }, frame }) => {
      const now = timeOfDay(air.graphics.day, frame, show.rate);
      return { text: now === null ? '' : formatDay(now) };
    },
  },
  value: { form: '{value}', about: 'what a step, a key or a trigger gives along', fill: ({ value }) => ({ text: value }) },
} as const satisfies Record<string, HoleTraits>;

/** A word in braces, perhaps with a colon: JSON never looks like this, as its names stand in quotes. */
const HOLE = /\{([a-z]+)(?::([^{}]*))?\}/gi;

/** A fault of a hole: where it stands, in characters from 0, and what is wrong. */
export interface HoleFault {
  at: number;
  message: string;
}

/** True when what a text says may change by itself. */
export const hasHoles = (text: string): boolean => /\{(clock|seconds|entry|tally|air|next|time)(:|\})/i.test(text);

interface Filled {
  text: string;
  faults: HoleFault[];
}

/** Fills many texts at one frame: what they share is worked out once. */
export function fillerAt(desk: Desk, frame: number): (text: string, value?: string) => Filled {
  let tally: Record<string, Tally> | null = null;
  const shared = { desk, frame, tally: () => (tally ??= tallyOf(desk.show, desk.air, frame)) };
  return (text, value = '') => fillWith(text, { ...shared, value });
}

/** Text with its holes filled at a frame, and their faults; a faulty hole is left empty. */
export const fillHoles = (text: string, desk: Desk, frame: number, value = ''): Filled => fillerAt(desk, frame)(text, value);

function fillWith(text: string, filling: Filling): Filled {
  const faults: HoleFault[] = [];
  const filled = text.replace(HOLE, (_whole: string, kind: string, words: string | undefined, at: number) => {
    const key = kind.toLowerCase();
    if (!Object.hasOwn(HOLES, key)) {
      faults.push({
        at,
        message: `{${kind}} is none of ${Object.values(HOLES)
          .map((h) => h.form)
          .join(', ')}`,
      });
      return '';
    }
    const done: ReturnType<HoleTraits['fill']> = (HOLES[key as keyof typeof HOLES] as HoleTraits).fill(filling, (words ?? '').trim());
    if ('text' in done) return done.text;
    faults.push({ at, message: done.fault });
    return '';
  });
  return { text: filled, faults };
}
