/** Guests of a show: remote people with what is shown of them, and who sits where as it is stored. */
import { Colour, Flag, Id, ListOf, OneOf, Ref, Text, Whole } from '../schema/fields';

export const MOST_GUESTS = 40;
export const MOST_CASTS = 100;
export const LONGEST_GUEST_NAME = 60;

/** Heights that a guest's picture may be asked for, pixels. */
export const GUEST_HEIGHTS = [180, 360, 540, 720, 1080] as const;

/** A remote person's camera or shared screen, with its sound: which of them, the guest says. */
export class GuestSettings {
  @OneOf(['guest'], 'remote person') kind!: 'guest';
}

/** Somebody who joins from a browser. Where they are now, and whether they are admitted, stands in air. */
export class Guest {
  @Id('identity') id!: string;
  @Text(LONGEST_GUEST_NAME, 'name as it is shown', { min: 1 }) name!: string;
  @Text(80, 'what is said of them beside the name, such as an office') title!: string;
  @Ref('source', 'source with their camera and microphone') sourceId!: string;
  @Ref('source', 'source with the screen that they share', { nullable: true }) screenId!: string | null;
  @Ref('listener', 'what they hear', { nullable: true }) listenerId!: string | null;
  @Flag('counts in the gathered views') counts!: boolean;
  @Whole(90, 2160, 'height wanted of their picture, pixels; less comes when line or machine is short') height!: number;
  @Whole(5, 60, 'frames a second wanted of their picture') frameRate!: number;
}

export class CastSeat {
  @Ref('seat', 'seat') seatId!: string;
  @Ref('occupant', 'who sits there; null leaves it empty', { nullable: true }) occupantId!: string | null;
}

/** Who sits in which seat, stored. */
export class Cast {
  @Id('identity') id!: string;
  @Text(60, 'name', { min: 1 }) name!: string;
  @ListOf(() => CastSeat, 100, 'seats with who fills them') seats!: CastSeat[];
}

export const MOST_GATHERINGS = 20;
export const GATHERING_KINDS = ['everyone', 'speaker', 'shared'] as const;
export const GATHERING_ORDERS = ['number', 'seat'] as const;

/** A picture of the admitted guests together: all of them, who speaks, or the screen that is shared. */
export class Gathering {
  @Id('identity') id!: string;
  @Text(60, 'name', { min: 1 }) name!: string;
  @Colour('colour of its tile') colour!: string;
  @Whole(1, 99, 'number on keys; null for none', { nullable: true }) number!: number | null;
  @OneOf(GATHERING_KINDS, 'everyone, who speaks, or the shared screen') kind!: (typeof GATHERING_KINDS)[number];
  @Flag('names stand in the pictures') names!: boolean;
  @OneOf(GATHERING_ORDERS, 'in the order of the guests, or of their seats') order!: (typeof GATHERING_ORDERS)[number];
  @Whole(0, 250, 'frames that a move from one arrangement to the next takes') frames!: number;
  @Ref('picture', 'shown while there is nobody, or nobody shares; null for none', { nullable: true }) restId!: string | null;
}

export const GATHERING_NAMES = { everyone: 'Everyone', speaker: 'Who speaks', shared: 'Shared screen' } as const;

export const createGathering = (id: string, kind: Gathering['kind']): Gathering => ({
  id,
  name: GATHERING_NAMES[kind],
  colour: '#5fc2b0',
  number: null,
  kind,
  names: kind !== 'shared',
  order: 'number',
  frames: kind === 'everyone' ? 15 : 8,
  restId: null,
});

export class Guests {
  @ListOf(() => Guest, MOST_GUESTS, 'guests in the order in which they were added') list!: Guest[];
  @ListOf(() => Cast, MOST_CASTS, 'casts') casts!: Cast[];
  @ListOf(() => Gathering, MOST_GATHERINGS, 'gathered views') gatherings!: Gathering[];
}

export const createGuests = (): Guests => ({ list: [], casts: [], gatherings: [] });
