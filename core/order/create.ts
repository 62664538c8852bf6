/** New items. */
import { type OrderItem, type RunningOrder } from './document';

/** Colours of items, handed out in turn. */
const COLOURS = ['#8aa3ad', '#c9955a', '#5fc2b0', '#b58ad6', '#8fbf6a', '#d67f8c'];

export const createOrder = (): RunningOrder => ({ startsAt: null, endsAt: null, prepares: true, items: [] });

export const createItem = (id: string, name: string, place: number, change: Partial<OrderItem> = {}): OrderItem => ({
  id,
  name,
  colour: COLOURS[place % COLOURS.length] as string,
  seconds: 0,
  hard: null,
  floats: false,
  pictureId: null,
  takes: 'take',
  lanes: [],
  seats: [],
  clipId: null,
  macroId: null,
  notes: '',
  ...change,
});
