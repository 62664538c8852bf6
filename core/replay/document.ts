/** Replay in the show document: angles, settings, reels and clips. Times are show frames. */
import { Colour, Flag, Id, Ids, ListOf, Nested, Num, OneOf, Text, Whole, Ref } from '../schema/fields';

/** Fewer are a single camera; more would not be read at a glance. */
export const MOST_ANGLES = 8;
export const MOST_REELS = 60;
export const FIRST_REELS = 12;
export const MOST_CLIPS = 20_000;
/** The programme mix as the sound of an angle. */
export const PROGRAMME_SOUND = 'programme';
/** Latest show frame that can be named: three years at 60 a second. */
export const LAST_FRAME = 6_000_000_000;

/** A picture that is recorded all the time: a source as it comes, or what is made of it; also what leaves the mixer. */
export class Angle {
  @Ref('view', 'picture, or output') pictureId!: string;
  @Ref('source', 'source whose sound is recorded with it, or `programme`; null for none', {
    nullable: true,
    or: [PROGRAMME_SOUND],
    as: 'the sound of',
  })
  soundId!: string | null;
}

export const BUDGET_KINDS = ['gigabytes', 'hours'] as const;

export class Budget {
  @OneOf(BUDGET_KINDS, 'what the value counts') kind!: (typeof BUDGET_KINDS)[number];
  @Num(0.005, 20_000, 'how much is kept') value!: number;
}

export const JOINS = ['cut', 'dissolve'] as const;
export const AFTER_ROLL = ['hold', 'loop'] as const;

/** How the decks record and play. */
export class ReplaySettings {
  @Whole(0, 2160, 'height of the recorded pictures; 0 as they come') height!: number;
  @Num(0.2, 50, 'picture bitrate of each angle, megabits a second') megabits!: number;
  @Nested(() => Budget, 'how much is kept before the oldest goes') budget!: Budget;
  @Num(0.5, 600, 'first length of Grab, seconds') grab1!: number;
  @Num(0.5, 600, 'second length of Grab, seconds') grab2!: number;
  @Num(0.5, 600, 'third length of Grab, seconds') grab3!: number;
  @Num(1, 600, 'how far look-back goes, seconds') lookBackSeconds!: number;
  @Flag('slow motion blends neighbouring frames') blend!: boolean;
  @Flag('sound at other than normal speed too') soundAtSpeed!: boolean;
  @Whole(8, 4096, 'memory for decoded frames, megabytes') cacheMegabytes!: number;
  @OneOf(JOINS, 'between clips played one after another') join!: (typeof JOINS)[number];
  @Whole(1, 250, 'length of a dissolve between clips, frames') joinFrames!: number;
  @OneOf(AFTER_ROLL, 'at the end of a play-out: hold the last frame, or begin again') after!: (typeof AFTER_ROLL)[number];
  @Ref('transition', 'stored transition that a roll to air uses; null for the armed one', {
    nullable: true,
    as: 'transition of rolls to air',
  })
  transitionId!: string | null;
  @Ref('source', 'source whose sound lies under a play-out; null for none', { nullable: true, as: 'music under play-outs' }) musicId!:
    string | null;
  @Num(0, 30, 'fade of that music at the end, seconds') musicFade!: number;
}

/** A list of clips in playing order. */
export class Reel {
  @Id('identity') id!: string;
  @Text(60, 'name', { min: 1 }) name!: string;
}

/** A span of the timeline, and what to show of it. */
export class Clip {
  @Id('identity') id!: string;
  @Whole(1, 999_999, 'number') number!: number;
  @Text(120, 'name', { min: 1 }) name!: string;
  @Ref('reel', 'reel it is in') reelId!: string;
  @Whole(0, LAST_FRAME, 'first frame') in!: number;
  @Whole(1, LAST_FRAME, 'frame after the last') out!: number;
  @Ids(MOST_ANGLES, 'angles, shown one after another; one that is recorded no longer still plays') angleIds!: string[];
  @Whole(1, 200, 'speed, per cent') speed!: number;
  @Colour('colour in lists') colour!: string;
  @Whole(0, 5, 'rating, 0 for none') rating!: number;
  @Text(200, 'tags, separated by commas') tags!: string;
  @Text(2000, 'note') note!: string;
}

/** Everything of replay that is saved with the show. Clips stand in playing order, reel by reel or mixed. */
export class Replay {
  @ListOf(() => Angle, MOST_ANGLES, 'recorded angles, in the order of their rows') angles!: Angle[];
  @Nested(() => ReplaySettings, 'settings') settings!: ReplaySettings;
  @ListOf(() => Reel, MOST_REELS, 'reels') reels!: Reel[];
  @Ref('reel', 'reel that new clips go to') reelId!: string;
  @ListOf(() => Clip, MOST_CLIPS, 'clips') clips!: Clip[];
}

/** Replay of a new show whose picture is `height` pixels high. */
export function createReplay(height: number): Replay {
  return {
    angles: [],
    settings: {
      height: 0,
      megabits: height > 720 ? 10 : height > 360 ? 5 : 2,
      budget: { kind: 'gigabytes', value: 8 },
      grab1: 4,
      grab2: 8,
      grab3: 15,
      lookBackSeconds: 8,
      blend: false,
      soundAtSpeed: false,
      cacheMegabytes: height > 720 ? 512 : 160,
      join: 'cut',
      joinFrames: 12,
      after: 'hold',
      transitionId: null,
      musicId: null,
      musicFade: 3,
    },
    reels: Array.from({ length: FIRST_REELS }, (_, i) => ({ id: `reel-${i + 1}`, name: `Reel ${i + 1}` })),
    reelId: 'reel-1',
    clips: [],
  };
}

/** Clips of a reel in playing order. */
export const clipsOf = (replay: Replay, reelId: string): Clip[] => replay.clips.filter((c) => c.reelId === reelId);
