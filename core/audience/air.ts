/** The audience now: what has come in and was not chosen yet, and the poll on their page. */
import { type Origin } from './document';

/** Comments that are kept for the moderation. The oldest give way, those with a star last. */
export const MOST_INBOX = 300;

export interface Comment {
  id: string;
  /** Who sent it: the same for all that comes from one browser, or from one guest. */
  from: string;
  name: string;
  text: string;
  origin: Origin;
  /** Wall time, milliseconds since 1970. */
  at: number;
  /** The word for which it is held back; empty for none. */
  held: string;
  star: boolean;
  hidden: boolean;
  /** What the crew has answered; empty for nothing. */
  answer: string;
}

export interface AudienceAir {
  /** The newest last. */
  inbox: Comment[];
  /** The poll that the page of the audience shows; null for none. */
  poll: { id: string; open: boolean; results: boolean } | null;
}

export const createAudienceAir = (): AudienceAir => ({ inbox: [], poll: null });
