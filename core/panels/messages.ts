/**
 * What the host window, the server and those who work a show from elsewhere say to each other. State goes out as a snapshot with a
 * revision and then as patches in order; whoever misses a revision asks for a new snapshot.
 */
import { type Patch } from 'immer';
import { type Air } from '../desk/air';
import { type Refusal } from '../desk/execute';
import { type Person } from '../desk/history';
import { type Ask, type AskAnswer, type ServerAsk } from './asks';
import { type MeterOrder } from './meters';
import { type MosaicLayout, type WantedTile } from './mosaic';
import { type AudienceBatch, type AudienceSetUp, type ToVisitor } from '../audience/line';
import { type GuestSays, type HostSays } from '../guests/line';
import { type WayIn } from './way-in';
import { type Held } from './held';
import { type PassHash } from './pass';
import { type CrewMember, type Ears } from './sound-line';
import { type Show } from '../desk/show';

/** Which show a host window runs. */
export interface ShowName {
  id: string;
  name: string;
}

/** What the host answers to a command. */
export type HostOutcome = { ok: true; result: Record<string, unknown> } | { ok: false; error: Refusal };

/** The whole state at a revision. */
export interface Snapshot {
  kind: 'state';
  revision: number;
  show: Show;
  air: Air;
  /** The frame last mixed. */
  frame: number;
  status: Record<string, unknown>;
}

/** What changed from the revision before: patches of `{show, air}` (immer's, paths from the root). */
export interface Change {
  kind: 'patches';
  revision: number;
  frame: number;
  patches: Patch[];
  /** Key of the panel's command that this comes of; see `panel-messages.ts`. */
  of?: string;
}

/** Somebody who works the show with a pass just now. */
export interface Connected {
  passId: string;
  /** Wall time since when, milliseconds since 1970. */
  since: number;
  /** From the server to the panel and back, milliseconds; null while it is not known. */
  delayMs: number | null;
}

/** How a command came: with which pass, and what makes it the same at the panel and at the host. */
export interface FromPass {
  by: Person;
  /** Of the panel's connection; its new identities begin with it. */
  session: string;
  /** Names the command for the panel, so that it knows its own change when it comes. */
  key: string;
  /** New identities that the panel has given already, in the order in which they are wanted. */
  ids: string[];
  /** All steps of one are one of undo. */
  gesture?: string;
}

export type FromHost =
  | ({ kind: 'hello' } & { show: ShowName })
  | Snapshot
  | Change
  | { kind: 'status'; frame: number; status: Record<string, unknown> }
  | { kind: 'answer'; id: number; outcome: HostOutcome }
  /** All passes of the show, whenever one changes. */
  | { kind: 'passes'; list: PassHash[] }
  /** Where pictures for panels stand in the mosaic, before the first piece of it; null when there is none. Pieces are binary: see `mosaic.ts`. */
  | { kind: 'mosaic'; layout: MosaicLayout | null }
  /** What a panel has asked for. */
  | { kind: 'told'; id: number; answer: AskAnswer }
  /** Whose levels come, in order; the values are binary: see `meters.ts`. */
  | { kind: 'meters'; order: MeterOrder }
  /** What is in somebody's hand, whenever that changes. */
  | { kind: 'held'; list: readonly Held[] }
  /** Whom the host speaks to from now on; null for nobody. What it says is binary: see `sound-line.ts`. */
  | { kind: 'talk'; to: string | null }
  /** All ways in by a link, whenever one changes. */
  | { kind: 'ways'; list: WayIn[] }
  /** The page of the audience, whenever it changes. */
  | { kind: 'audience'; setUp: AudienceSetUp }
  /** Something for one of the audience. */
  | { kind: 'to-sender'; from: string; message: ToVisitor }
  /** Asks for the picture of one of them. */
  | { kind: 'want-picture'; from: string }
  /** Something for the page of a guest. */
  | { kind: 'to-guest'; session: string; message: HostSays }
  /** The connection of a guest is ended. */
  | { kind: 'guest-out'; id: string };

export type ToHost =
  | { kind: 'command'; id: number; command: unknown; from?: FromPass }
  /** What panels look at, together. Told again as it is, it asks for a picture that stands by itself. */
  | { kind: 'pictures'; tiles: WantedTile[] }
  /** A panel asks for something. */
  | { kind: 'ask'; id: number; ask: Ask | ServerAsk }
  /** What panels listen to, together, and the number that marks the packets of each. */
  | { kind: 'listen'; ears: { number: number; ears: Ears }[] }
  /** The crew, and who speaks to whom. What is said to the host is binary. */
  | { kind: 'crew'; list: CrewMember[] }
  /** A guest's page has come, has gone, or says something. */
  | { kind: 'guest-in' | 'guest-gone'; id: string; session: string }
  | { kind: 'from-guest'; id: string; session: string; message: GuestSays }
  /** What the audience has said since the last time. */
  | { kind: 'from-audience'; batch: AudienceBatch }
  /** The picture of one of them, a JPEG in base64; null where none was given. */
  | { kind: 'sender-picture'; from: string; picture: string | null }
  /** Who works the show with a pass now. */
  | { kind: 'people'; list: Connected[] }
  /** Somebody listens from now on, or nobody does. The host sends the whole state and then each change; to nobody it sends nothing. */
  | { kind: 'follow'; on: boolean }
  /** Asks for the whole state: a revision was missed, or somebody wants it once. */
  | { kind: 'snapshot' }
  /** Asks for the figures alone. */
  | { kind: 'status' };

/** What the socket `/api/events` tells. */
export type ToListener =
  /** Whether a window runs the show that is listened to; with several shows and none chosen, which there are. */
  | { kind: 'host'; present: boolean; show?: ShowName; shows: ShowName[] }
  | Snapshot
  | Change
  | { kind: 'status'; frame: number; status: Record<string, unknown> };

/** Subprotocol of a host window's socket; its secret is offered beside it. */
export const HOST_PROTOCOL = 'bivoca.host';

/** Characters of one message at most; longer ones go in parts. */
export const PART_LENGTH = 1_000_000;
