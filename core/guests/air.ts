/** Guests now: who is there, and what they have said of themselves. */
/**
 * Where a guest is: `away` until they come; `waiting` in the green room, seen and heard by the crew alone; `admitted` may be seen and heard in the
 * show.
 */
export type GuestState = 'away' | 'waiting' | 'admitted';

export interface GuestNow {
  state: GuestState;
  /** Their line is down: they are expected back, and keep what they had. */
  lost: boolean;
  /** Frame since which that is so. */
  since: number;
  /** What they have said that they are called; the crew decides what is shown. */
  said: string;
  /** They want to say something. */
  hand: boolean;
  /** They hear by a loudspeaker, which their microphone may pick up; by headphones; or that is not known. */
  hears: 'loudspeaker' | 'headphones' | 'unknown';
  /** They share a screen now. */
  shares: boolean;
  /** Frame since which that is so. */
  sharesSince: number;
  /** What their own page says is wrong with camera or microphone; empty while all is well. */
  trouble: string;
  /** Wall time, milliseconds since 1970, at which they have agreed to be recorded and streamed; null before. */
  agreedAt: number | null;
  /** What the crew has written to them last. */
  note: string;
  /** Clock that they see; null for none. */
  clockId: string | null;
  /** They see the running order: what is on, and what comes. */
  seesOrder: boolean;
}

/** Something that changes, and the way from what was before. */
export interface Turn<T> {
  now: T;
  before: T;
  /** Frame of the change. */
  since: number;
}

/** Who is in the gathered views, by the guests' identities. */
export interface GatheredAir {
  crowd: Turn<string[]>;
  speaker: Turn<string | null>;
  shared: Turn<string | null>;
}

export interface GuestsAir {
  /** By the guest's identity; who was never there is not in it. */
  now: Record<string, GuestNow>;
  gathered: GatheredAir;
}

const still = <T>(now: T): Turn<T> => ({ now, before: now, since: 0 });

export const createGuestsAir = (): GuestsAir => ({
  now: {},
  gathered: { crowd: still([]), speaker: still(null), shared: still(null) },
});

const AWAY: GuestNow = {
  state: 'away',
  lost: false,
  since: 0,
  said: '',
  hand: false,
  hears: 'unknown',
  shares: false,
  sharesSince: 0,
  trouble: '',
  agreedAt: null,
  note: '',
  clockId: null,
  seesOrder: false,
};

export const awayGuest = (frame: number): GuestNow => ({ ...AWAY, since: frame });

/** How it stands with a guest. */
export const guestNow = ({ guests }: { guests: GuestsAir }, id: string): GuestNow => guests.now[id] ?? AWAY;

/** Guests as they are when the show is opened anew: nobody has a line yet, and whoever was there is expected back. */
export function withoutLines({ now, gathered }: GuestsAir): GuestsAir {
  const away = (guest: GuestNow): GuestNow =>
    guest.state === 'away' ? guest : { ...guest, lost: true, since: 0, shares: false, hand: false };
  return { now: Object.fromEntries(Object.entries(now).map(([id, guest]) => [id, away(guest)])), gathered };
}
