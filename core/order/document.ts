/** The running order of a show: its items with what each takes to air, how long it is planned to be, and what has been planned for the whole. */
import { DAY_SECONDS } from '../time/day';
import { Colour, Flag, Id, ListOf, Num, OneOf, Ref, Text } from '../schema/fields';

export const MOST_ITEMS = 500;
/** Lanes and seats that one item may set. */
export const MOST_PARTS = 20;

export const TAKES = ['take', 'cut', 'next'] as const;

/** A lane as an item wants it. */
export class ItemLane {
  @Ref('lane', 'lane') laneId!: string;
  // Without what it shows it would hide the lane, which nobody has said.
  @Ref('picture', 'what is shown in it; null hides it', { nullable: true, whole: true }) pictureId!: string | null;
}

/** A seat as an item wants it. */
export class ItemSeat {
  @Ref('seat', 'seat') seatId!: string;
  @Ref('occupant', 'who sits there; null empties it', { nullable: true, whole: true }) occupantId!: string | null;
}

export class OrderItem {
  @Id('identity') id!: string;
  @Text(120, 'name', { min: 1 }) name!: string;
  @Colour('colour') colour!: string;
  @Num(0, DAY_SECONDS, 'planned length, seconds; 0 for none') seconds!: number;
  @Num(0, DAY_SECONDS, 'hard time: begins at this time of day, seconds after midnight; null for none', { nullable: true }) hard!:
    number | null;
  /** It stays in the list without a place in time: *Go* passes over it, and it is taken by hand. */
  @Flag('floats') floats!: boolean;
  @Ref('picture', 'picture or layout', { nullable: true }) pictureId!: string | null;
  @OneOf(TAKES, 'the picture is taken by the armed transition, cut to, or put into Next alone') takes!: (typeof TAKES)[number];
  @ListOf(() => ItemLane, MOST_PARTS, 'lanes shown and hidden') lanes!: ItemLane[];
  @ListOf(() => ItemSeat, MOST_PARTS, 'who sits where') seats!: ItemSeat[];
  @Ref('clip', 'clip that is played out', { nullable: true }) clipId!: string | null;
  @Ref('macro', 'macro that runs', { nullable: true }) macroId!: string | null;
  @Text(4000, 'notes for the crew') notes!: string;
}

export class RunningOrder {
  @Num(0, DAY_SECONDS, 'planned beginning, seconds after midnight; null for none', { nullable: true }) startsAt!: number | null;
  @Num(0, DAY_SECONDS, 'time at which the show has to be over, seconds after midnight; null for none', { nullable: true }) endsAt!:
    number | null;
  @Flag('once an item is on, the picture of the item after it is put into Next') prepares!: boolean;
  @ListOf(() => OrderItem, MOST_ITEMS, 'items in order') items!: OrderItem[];
}
