/** Finding clips among thousands: by words in name, number, tags and note, by rating, angle and reel. */
import { type Clip } from './document';

export interface ClipFilter {
  /** Words, all of which must be found; `#12` is the clip number. Letter case does not matter. */
  text: string;
  /** Lowest rating. */
  rating: number;
  angleId: string | null;
  /** Null looks through all reels. */
  reelId: string | null;
}

type Test = (clip: Clip) => boolean;

/** What one word asks of a clip. */
function wordTest(word: string): Test {
  const number = /^#(\d+)$/.exec(word);
  if (number) return (clip) => clip.number === Number(number[1]);
  const low = word.toLowerCase();
  const has = (text: string) => text !== '' && text.toLowerCase().includes(low);
  return ({ name, tags, note }) => has(name) || has(tags) || has(note);
}

/** Clips that pass the filter, in their order. */
export function filterClips(clips: readonly Clip[], { text, rating, angleId, reelId }: ClipFilter): Clip[] {
  const words = text
    .split(/\s+/)
    .filter((w) => w !== '')
    .map(wordTest);
  return clips.filter((clip) => {
    if (reelId !== null && clip.reelId !== reelId) return false;
    if (clip.rating < rating) return false;
    if (angleId !== null && !clip.angleIds.includes(angleId)) return false;
    return words.every((test) => test(clip));
  });
}
