/** How the columns of a sheet meet the fields of a graphic, and what its cells are as values. */
import { type Field, type Value } from '../graphics/document';
import { numberOfWords } from './numbers';

/** Column by field; fields without one keep what they have. */
export type ColumnMap = Readonly<Record<string, string>>;

const plain = (name: string): string =>
  name
    .normalize('NFKD')
    .toLowerCase()
    .replaceAll(/[^\p{L}\p{N}]/gu, '');

/** Columns that are called as fields are, whatever their capitals, spaces and accents. */
export function matchColumns(fields: readonly Field[], columns: readonly string[]): ColumnMap {
  const by = new Map(columns.map((c) => [plain(c), c]));
  return Object.fromEntries(fields.flatMap((f) => (by.has(plain(f.name)) ? [[f.id, by.get(plain(f.name)) as string]] : [])));
}

const YES: ReadonlySet<string> = new Set(['yes', 'y', 'true', 'on', '1', 'x']);
const NO: ReadonlySet<string> = new Set(['', 'no', 'n', 'false', 'off', '0', '-']);

/** A cell as a value of a field; a string says why it is none. */
export function valueOfCell(field: Field, cell: string): Value | string {
  const words = cell.trim();
  switch (field.default.kind) {
    case 'text':
      if (field.longest !== null && cell.length > field.longest)
        return `has ${cell.length} characters, and ${field.name} holds ${field.longest}`;
      return { kind: 'text', text: cell };
    case 'number': {
      const number = numberOfWords(words);
      if (number === null) return `“${words.slice(0, 30)}” is no number`;
      if ((field.least !== null && number < field.least) || (field.most !== null && number > field.most))
        return `${number} is not between ${field.least ?? 'anything'} and ${field.most ?? 'anything'}`;
      return { kind: 'number', number };
    }
    case 'flag':
      if (YES.has(words.toLowerCase())) return { kind: 'flag', on: true };
      return NO.has(words.toLowerCase()) ? { kind: 'flag', on: false } : `“${words.slice(0, 30)}” is neither yes nor no`;
    case 'colour':
      return /^#[0-9a-f]{6}$/iu.test(words)
        ? { kind: 'colour', colour: words.toLowerCase() }
        : `“${words.slice(0, 30)}” is no colour such as #e2c48d`;
    case 'choice': {
      const found = field.choices.find((c) => c.toLowerCase() === words.toLowerCase());
      return found !== undefined || words === ''
        ? { kind: 'choice', choice: found ?? '' }
        : `“${words.slice(0, 30)}” is none of ${field.choices.join(', ')}`;
    }
    default:
      return `${field.name} takes ${field.default.kind === 'image' ? 'an image' : `a ${field.default.kind}`}, which a sheet does not give`;
  }
}

/** A cell that cannot be taken. */
export interface SheetFault {
  /** Row of the sheet, as spreadsheets count them. */
  row: number;
  column: string;
  why: string;
}
