/** The running order as a table: CSV out and in, and the lines that are printed. Things stand in it by their names. */
import Papa from 'papaparse';
import { type Desk } from '../desk/air';
import { entitiesOf, nameOf } from '../desk/entities';
import { type Show } from '../desk/show';
import { type RefTarget } from '../schema/kinds';
import { createItem } from './create';
import { MOST_ITEMS, MOST_PARTS, type OrderItem, TAKES } from './document';
import { DAY_SECONDS, formatDay, formatSigned, readDay, readLength } from '../time/day';

const COLUMNS = ['Item', 'Length', 'Hard time', 'Picture', 'Taken by', 'Lanes', 'Seats', 'Clip', 'Macro', 'Notes', 'Floats'] as const;
type Column = (typeof COLUMNS)[number];

/** How an empty lane or seat is written. */
const NOTHING = 'nothing';
/** Text beyond which a file is none of a running order, characters. */
export const MOST_TEXT = 2_000_000;

/** A fault of a file: where, and what. */
export interface OrderFault {
  /** Line of the table, from 1 below its head; 0 for the whole file. */
  row: number;
  column: string;
  message: string;
}

type Parts = readonly (readonly [string, string | null])[];

/** "Names: Maren Tolv; Clock: nothing". */
const partsWords = (show: Show, parts: Parts, of: RefTarget, what: RefTarget): string =>
  parts.map(([id, thing]) => `${nameOf(show, of, id)}: ${thing === null ? NOTHING : nameOf(show, what, thing)}`).join('; ');

/** The cells of an item, in the order of the columns. */
export function cellsOf(show: Show, item: OrderItem): Record<Column, string> {
  const name = (to: RefTarget, id: string | null) => (id === null ? '' : nameOf(show, to, id));
  return {
    Item: item.name,
    Length: item.seconds > 0 ? formatSigned(item.seconds) : '',
    'Hard time': item.hard === null ? '' : formatDay(item.hard),
    Picture: name('picture', item.pictureId),
    'Taken by': item.takes,
    Lanes: partsWords(
      show,
      item.lanes.map((l) => [l.laneId, l.pictureId]),
      'lane',
      'picture',
    ),
    Seats: partsWords(
      show,
      item.seats.map((s) => [s.seatId, s.occupantId]),
      'seat',
      'occupant',
    ),
    Clip: name('clip', item.clipId),
    Macro: name('macro', item.macroId),
    Notes: item.notes,
    Floats: item.floats ? 'yes' : '',
  };
}

/** The running order as CSV (RFC 4180), with a head. What a spreadsheet would take for a formula is quoted by an apostrophe before it. */
export const orderToCsv = ({ show }: Pick<Desk, 'show'>): string =>
  Papa.unparse({ fields: [...COLUMNS], data: show.order.items.map((i) => Object.values(cellsOf(show, i))) }, { escapeFormulae: true });

/** What `escapeFormulae` has put before a text. */
const plain = (cell: string): string => (/^'[=+\-@\t\r]/.test(cell) ? cell.slice(1) : cell);

const YES = new Set(['yes', 'y', 'true', '1', 'x']);

/**
 * Items of a table with a head, and every fault. A cell that is faulty is left out of its item; what is not named in the head is as it is in a
 * new item. Things are found by their name, whatever their case; of several of one name the first.
 */
export function orderFromCsv({ show }: Pick<Desk, 'show'>, text: string): { items: OrderItem[]; faults: OrderFault[] } {
  const faults: OrderFault[] = [];
  const whole = (message: string) => ({ items: [], faults: [{ row: 0, column: '', message }] });
  if (text.length > MOST_TEXT)
    return whole(`The file is larger than any running order is: it has over ${MOST_TEXT / 1e6} million characters.`);
  const parsed = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), { skipEmptyLines: 'greedy' });
  const [head = [], ...rows] = parsed.data;
  const places = new Map(COLUMNS.map((c) => [c, head.findIndex((h) => h.trim().toLowerCase() === c.toLowerCase())]));
  if ((places.get('Item') ?? -1) < 0)
    return whole(`The first line has to name the columns, “Item” among them. Columns there may be: ${COLUMNS.join(', ')}.`);
  if (rows.length > MOST_ITEMS) return whole(`The file has ${rows.length} lines; a running order has at most ${MOST_ITEMS} items.`);
  const known = new Map<RefTarget, Map<string, string>>();
  const find = (to: RefTarget, name: string): string | undefined => {
    let names = known.get(to);
    if (!names) known.set(to, (names = new Map([...entitiesOf(show, to)].reverse().map((e) => [e.name.toLowerCase(), e.id]))));
    return names.get(name.toLowerCase());
  };

  const items = rows.map((row, at) => {
    const cell = (column: Column) => plain((row[places.get(column) ?? -1] ?? '').trim());
    const fault = (column: Column, message: string) => void faults.push({ row: at + 1, column, message });
    const item = createItem(`item-${at + 1}`, cell('Item').slice(0, 120) || `Item ${at + 1}`, at, { notes: cell('Notes').slice(0, 4000) });
    const one = (column: Column, to: RefTarget): string | null => {
      const name = cell(column);
      if (name === '') return null;
      const id = find(to, name);
      if (id === undefined) fault(column, `nothing here is called “${name.slice(0, 60)}”`);
      return id ?? null;
    };
    const several = (column: Column, of: RefTarget, what: RefTarget): [string, string | null][] =>
      cell(column)
        .split(';')
        .filter((part) => part.trim() !== '')
        .slice(0, MOST_PARTS)
        .flatMap((part) => {
          const [holder = '', ...rest] = part.split(':');
          const [holderId, name] = [find(of, holder.trim()), rest.join(':').trim()];
          if (holderId === undefined) fault(column, `nothing here is called “${holder.trim().slice(0, 60)}”`);
          const id = name === '' || name.toLowerCase() === NOTHING ? null : find(what, name);
          if (id === undefined) fault(column, `nothing here is called “${name.slice(0, 60)}”`);
          return holderId === undefined || id === undefined ? [] : [[holderId, id] as [string, string | null]];
        });
    const time = (column: Column, read: (words: string) => number | null): number | null => {
      const words = cell(column);
      const seconds = words === '' ? null : read(words);
      if (words !== '' && seconds === null) fault(column, `“${words.slice(0, 60)}” is no time; write 4:30, or 1:04:30`);
      return seconds;
    };
    item.seconds = Math.min(DAY_SECONDS, time('Length', readLength) ?? 0);
    item.hard = time('Hard time', readDay);
    item.pictureId = one('Picture', 'picture');
    item.clipId = one('Clip', 'clip');
    item.macroId = one('Macro', 'macro');
    item.lanes = several('Lanes', 'lane', 'picture').map(([laneId, pictureId]) => ({ laneId, pictureId }));
    item.seats = several('Seats', 'seat', 'occupant').map(([seatId, occupantId]) => ({ seatId, occupantId }));
    item.floats = YES.has(cell('Floats').toLowerCase());
    const takes = cell('Taken by').toLowerCase();
    const known = TAKES.find((t) => t === takes);
    if (known) item.takes = known;
    else if (takes !== '') fault('Taken by', `“${takes.slice(0, 60)}” is none of ${TAKES.join(', ')}`);
    return item;
  });
  return { items, faults };
}
