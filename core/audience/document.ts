/** The audience in the show document: who may write and how it is shown, the comments that were chosen, and polls with their votes. */
import { Flag, Id, ListOf, OneOf, Ref, Text, TextList, Whole } from '../schema/fields';
import { LONGEST_COMMENT, LONGEST_SENDER_NAME } from './limits';

export const MOST_QUEUED = 200;
export const MOST_POLLS = 50;
export const MOST_CHOICES = 8;
export const MOST_VOTES = 1_000_000;
export const MOST_BANNED = 500;

/** Where a comment came from: the page of a guest, or that of the audience. */
export const ORIGINS = ['guest', 'audience'] as const;
export type Origin = (typeof ORIGINS)[number];

/** A comment that was chosen to be shown. */
export class QueuedComment {
  @Id('identity') id!: string;
  @Text(LONGEST_SENDER_NAME, 'name of whoever wrote it, as they have given it') name!: string;
  @Text(LONGEST_COMMENT, 'what is shown', { min: 1 }) text!: string;
  @Text(LONGEST_COMMENT, 'what was written: another text says that the crew has changed it', { min: 1 }) written!: string;
  @OneOf(ORIGINS, 'from a guest, or from the audience') origin!: Origin;
  @Id('who sent it, as the moderation knows them') from!: string;
  @Ref('asset', 'picture that they have given; null for none', { nullable: true }) pictureId!: string | null;
  @Flag('has been shown, and is passed over by “next”') shown!: boolean;
}

export class PollChoice {
  @Text(80, 'words', { min: 1 }) text!: string;
  @Whole(0, MOST_VOTES, 'votes') votes!: number;
}

/** A question that the audience answers by one of some choices. */
export class Poll {
  @Id('identity') id!: string;
  @Text(160, 'question', { min: 1 }) question!: string;
  @ListOf(() => PollChoice, MOST_CHOICES, 'choices') choices!: PollChoice[];
  @Whole(0, 1_000_000, 'times that its votes were taken away') round!: number;
}

export class Audience {
  @Flag('the audience may write comments') open!: boolean;
  @Whole(1, 60, 'comments a minute that are taken of one sender') perMinute!: number;
  @TextList(200, 60, 'words that hold a comment back until somebody has looked at it') words!: string[];
  @TextList(MOST_BANNED, 64, 'senders of whom nothing is taken') banned!: string[];
  @ListOf(() => QueuedComment, MOST_QUEUED, 'comments that were chosen, in the order of showing') queue!: QueuedComment[];
  @ListOf(() => Poll, MOST_POLLS, 'polls') polls!: Poll[];
  @Ref('graphic', 'graphic that comments are shown in; null for none', { nullable: true }) graphicId!: string | null;
  @Ref('lane', 'lane that they are shown in; null for none', { nullable: true }) laneId!: string | null;
}

export const createAudience = (): Audience => ({
  open: true,
  perMinute: 6,
  words: [],
  banned: [],
  queue: [],
  polls: [],
  graphicId: null,
  laneId: null,
});

export const createPoll = (id: string, question: string, choices: readonly string[]): Poll => ({
  id,
  question,
  choices: choices.map((text) => ({ text, votes: 0 })),
  round: 0,
});
