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

const haystacks = new WeakMap<Clip, string>();

/** What words are looked for in; kept as long as the clip is not changed. */
function haystackOf(clip: Clip): string {
  const known = haystacks.get(clip);
  if (known !== undefined) return known;
  const made = `#${clip.number} ${clip.name} ${clip.tags} ${clip.note}`.toLowerCase();
  haystacks.set(clip, made);
  return made;
}

/** Clips that pass the filter, in their order. */
export function filterClips(clips: readonly Clip[], { text, rating, angleId, reelId }: ClipFilter): Clip[] {
  const words = text.toLowerCase().split(/\s+/).filter((w) => w !== '');
  return clips.filter((clip) => {
    if (reelId !== null && clip.reelId !== reelId) return false;
    if (clip.rating < rating) return false;
    if (angleId !== null && !clip.angleIds.includes(angleId)) return false;
    if (words.length === 0) return true;
    const hay = haystackOf(clip);
    return words.every((w) => (/^#\d+$/.test(w) ? w === `#${clip.number}` : hay.includes(w)));
  });
}
