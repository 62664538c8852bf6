/**
 * What a page of the audience, the server and the window that runs the show say to each other on `/api/audience`. The server gathers what hundreds
 * of pages say and hands it on a few times a second; it keeps nothing but pictures that their senders have given.
 */
import { plainWords } from '../schema/plain-words';
import { isRecord } from '../schema/record';
import { LONGEST_COMMENT, LONGEST_SENDER_NAME } from './limits';

/** Both sides are of one build. */
export const AUDIENCE_VERSION = 1;
/** Characters of one message of a page at most: a picture is the largest. */
export const AUDIENCE_MESSAGE_LIMIT = 40_000;
/** Characters of a picture in base64. */
export const LONGEST_PICTURE = 32_000;

/** A poll as the audience sees it. */
export interface PagePoll {
  /** Identity and round: who has voted in another round may vote again. */
  key: string;
  question: string;
  choices: string[];
  open: boolean;
  /** Shares in whole percents and how many have voted; null while they are not shown. */
  results: { shares: number[]; votes: number } | null;
}

/** What every page of the audience shows. */
export interface AudiencePage {
  show: string;
  /** Comments are taken. */
  open: boolean;
  poll: PagePoll | null;
}

/** What the window that runs the show tells the server: the page, and of whom nothing is taken. */
export interface AudienceSetUp {
  page: AudiencePage;
  perMinute: number;
  banned: string[];
}

export type FromVisitor =
  /** `device` is of this browser: one vote is counted of it. */
  | { kind: 'enter'; version: number; show: string; secret: string; device: string }
  /** Who they say they are; the picture is a JPEG in base64, null for none. */
  | { kind: 'me'; name: string; picture: string | null }
  | { kind: 'comment'; text: string }
  | { kind: 'vote'; poll: string; choice: number }
  | { kind: 'pong' };

/** Why a comment was not taken. */
export const REFUSALS = {
  'too-many': 'So much is not taken at once: wait a little.',
  twice: 'You have written this already.',
  closed: 'No comments are taken now.',
  banned: 'Nothing more is taken from here.',
} as const;
export type CommentRefusal = keyof typeof REFUSALS;

export type ToVisitor =
  | { kind: 'page'; page: AudiencePage }
  /** No window runs the show now. */
  | { kind: 'waiting' }
  /** What became of the last comment. */
  | { kind: 'comment'; refused: CommentRefusal | null }
  /** The crew has answered one of theirs. */
  | { kind: 'answer'; text: string; answer: string }
  | { kind: 'ping' };

/** A comment on its way to the host. */
export interface SentComment {
  id: string;
  from: string;
  name: string;
  text: string;
  at: number;
}

/** What the audience has said since the last time. */
export interface AudienceBatch {
  comments: SentComment[];
  /** Who has chosen what in which poll. */
  votes: [from: string, poll: string, choice: number][];
  /** Pages that are open. */
  people: number;
  /** Comments that were left out since the server began, as more came than anybody reads. */
  passed: number;
}

/** Why a page's line was closed. */
export const AUDIENCE_CLOSED = { withdrawn: 4003, flood: 4008, version: 4010, slow: 4029, misread: 1003, full: 1013 } as const;

const isShort = (value: unknown, most: number): value is string => typeof value === 'string' && value.length <= most;

/** A picture that may be one: base64 of a JPEG, which begins with FF D8 FF (ISO/IEC 10918-1, B.1.1.3). */
export const isPicture = (value: unknown): value is string =>
  isShort(value, LONGEST_PICTURE) && value.startsWith('/9j/') && /^[A-Za-z0-9+/]+={0,2}$/.test(value);

/** A message of a page; null when it is none. Words are plain then. */
export function visitorMessage(raw: unknown): FromVisitor | null {
  if (!isRecord(raw)) return null;
  switch (raw.kind) {
    case 'pong':
      return { kind: 'pong' };
    case 'enter': {
      const { version, show, secret, device } = raw;
      if (typeof version !== 'number' || !isShort(show, 64) || !isShort(secret, 200) || !isShort(device, 64)) return null;
      return { kind: 'enter', version, show, secret, device };
    }
    case 'me': {
      if (typeof raw.name !== 'string') return null;
      const picture = raw.picture ?? null;
      if (picture !== null && !isPicture(picture)) return null;
      return { kind: 'me', name: plainWords(raw.name.slice(0, 1000), LONGEST_SENDER_NAME), picture };
    }
    case 'comment': {
      if (typeof raw.text !== 'string') return null;
      const text = plainWords(raw.text.slice(0, 20_000), LONGEST_COMMENT);
      return text === '' ? null : { kind: 'comment', text };
    }
    case 'vote': {
      const { poll, choice } = raw;
      if (!isShort(poll, 100) || !Number.isInteger(choice) || (choice as number) < 0 || (choice as number) > 100) return null;
      return { kind: 'vote', poll, choice: choice as number };
    }
    default:
      return null;
  }
}

/** What a host has set up; null when it is nothing that could be. */
export function setUpFrom(raw: unknown): AudienceSetUp | null {
  if (!isRecord(raw) || !isRecord(raw.page) || !Array.isArray(raw.banned) || typeof raw.perMinute !== 'number') return null;
  return raw as unknown as AudienceSetUp;
}
