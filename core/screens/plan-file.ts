/** The plan of a surface as a table or as JSON: its canvas and its screens, with the outputs that feed them by their names. */
import Papa from 'papaparse';
import { type Show } from '../desk/show';
import { check } from '../schema/check';
import { isRecord } from '../schema/record';
import { ArithmeticError } from '../time/arithmetic';
import { nameOf } from '../desk/entities';
import { parseLength } from './lengths';
import { type Surface, TURNS, type Turn } from './surface';
import { type PlanScreen, SurfacePlan } from './planned';

const COLUMNS = [
  'Screen',
  'Output',
  'X',
  'Y',
  'Width',
  'Height',
  'Area X',
  'Area Y',
  'Area width',
  'Area height',
  'Turned',
  'Real width',
  'Real height',
  'Blended',
] as const;
type Column = (typeof COLUMNS)[number];

/** Text beyond which a file is no plan, characters. */
const MOST_TEXT = 500_000;
const FORMAT = 'bivoca-surface-plan';

/** A fault of a file: where, and what. */
export interface PlanFault {
  /** Line of the table, from 1 below its head; 0 for the whole file. */
  row: number;
  column: string;
  message: string;
}

/** The plan of a surface as it is. */
export function planOf(show: Show, surface: Surface): SurfacePlan {
  const { width, height, pitch, screens } = surface;
  return {
    width,
    height,
    pitch,
    screens: screens.map(({ name, outputId, rect, area, turn, size, blends }) => ({
      name,
      output: outputId === null ? '' : nameOf(show, 'screen', outputId),
      rect,
      area,
      turn,
      size,
      blends,
    })),
  };
}

const cells = ({ name, output, rect, area, turn, size, blends }: PlanScreen): string[] => [
  name,
  output,
  ...[rect.x, rect.y, rect.width, rect.height].map(String),
  ...(area ? [area.x, area.y, area.width, area.height].map(String) : ['', '', '', '']),
  turn === 'none' ? '' : turn,
  ...(size ? [`${Number((size.width / 1000).toFixed(4))} m`, `${Number((size.height / 1000).toFixed(4))} m`] : ['', '']),
  blends ? 'yes' : '',
];

/** The screens as CSV (RFC 4180), with a head; lengths on the canvas are pixels. */
export const planToCsv = (show: Show, surface: Surface): string =>
  Papa.unparse({ fields: [...COLUMNS], data: planOf(show, surface).screens.map(cells) }, { escapeFormulae: true });

export const planToJson = (show: Show, surface: Surface): string =>
  `${JSON.stringify({ format: FORMAT, name: surface.name, ...planOf(show, surface) }, null, 2)}\n`;

/** What `escapeFormulae` has put before a text. */
const plain = (cell: string): string => (/^'[=+\-@\t\r]/.test(cell) ? cell.slice(1) : cell);
const YES = new Set(['yes', 'y', 'true', '1', 'x']);

type Read = { plan: SurfacePlan | null; faults: PlanFault[] };
const whole = (message: string): Read => ({ plan: null, faults: [{ row: 0, column: '', message }] });

/**
 * A plan of a file, JSON or a table with a head, and every fault. Lengths may be written in any unit; on the canvas they become pixels at the
 * pitch of the surface. What the table does not have stays as the surface has it.
 */
export function planFromText(show: Show, surface: Surface, text: string): Read {
  if (text.length > MOST_TEXT) return whole(`The file is larger than any plan is: it has over ${MOST_TEXT / 1000} thousand characters.`);
  const bare = text.replace(/^\uFEFF/, '').trim();
  return bare.startsWith('{') ? fromJson(bare) : fromTable(show, surface, bare);
}

function fromJson(text: string): Read {
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch (error) {
    return whole(`The file is no JSON: ${error instanceof Error ? error.message : 'it cannot be read'}.`);
  }
  if (!isRecord(raw) || raw.format !== FORMAT) return whole(`The file is no plan of a surface: its “format” is not “${FORMAT}”.`);
  const { width, height, pitch, screens } = raw;
  const plan = { width, height, pitch, screens };
  const problems = check(SurfacePlan, plan);
  if (problems.length > 0) return { plan: null, faults: problems.map(({ path, message }) => ({ row: 0, column: path, message })) };
  return { plan: plan as unknown as SurfacePlan, faults: [] };
}

function fromTable(show: Show, surface: Surface, text: string): Read {
  const faults: PlanFault[] = [];
  const [head = [], ...rows] = Papa.parse<string[]>(text, { skipEmptyLines: 'greedy' }).data;
  const places = new Map(COLUMNS.map((c) => [c, head.findIndex((h) => h.trim().toLowerCase() === c.toLowerCase())]));
  if ((places.get('Screen') ?? -1) < 0)
    return whole(`The first line has to name the columns, “Screen” among them. Columns there may be: ${COLUMNS.join(', ')}.`);
  const screens = rows.map((row, at): PlanScreen => {
    const cell = (column: Column) => plain((row[places.get(column) ?? -1] ?? '').trim());
    const fault = (column: Column, message: string) => void faults.push({ row: at + 1, column, message });
    const name = cell('Screen').slice(0, 60);
    if (name === '') fault('Screen', 'a screen needs a name');
    const before = surface.screens.find((s) => s.name.toLowerCase() === name.toLowerCase());
    const millimetres = (column: Column, unit: 'px' | 'm'): number | null => {
      const words = cell(column);
      if (words === '') return null;
      try {
        return parseLength(words, { pitch: surface.pitch, bare: unit });
      } catch (error) {
        if (!(error instanceof ArithmeticError)) throw error;
        fault(column, error.message);
        return null;
      }
    };
    const pixels = (column: Column, otherwise: number): number => {
      const mm = millimetres(column, 'px');
      return mm === null ? otherwise : Math.round(mm / surface.pitch);
    };
    const [realWidth, realHeight] = [millimetres('Real width', 'm'), millimetres('Real height', 'm')];
    const size = realWidth && realHeight ? { width: realWidth, height: realHeight } : (before?.size ?? null);
    // What is measured and has no pixels gets those of the scale.
    const own = (real: number | null, otherwise: number) => (real ? Math.max(1, Math.round(real / surface.pitch)) : otherwise);
    const rect = {
      x: pixels('X', before?.rect.x ?? 0),
      y: pixels('Y', before?.rect.y ?? 0),
      width: pixels('Width', own(realWidth, before?.rect.width ?? show.raster.width)),
      height: pixels('Height', own(realHeight, before?.rect.height ?? show.raster.height)),
    };
    const area = ['Area X', 'Area Y', 'Area width', 'Area height'] as const;
    const written = area.filter((c) => cell(c) !== '');
    if (written.length > 0 && written.length < 4) fault('Area X', 'an active area has four numbers, or none');
    const [x, y, width, height] = area.map((c) => Number(cell(c))) as [number, number, number, number];
    if (written.length === 4 && ![x, y, width, height].every(Number.isFinite)) fault('Area X', 'an active area is four numbers of pixels');
    const words = cell('Turned').toLowerCase();
    const turn = TURNS.find((t) => t === words) ?? before?.turn ?? 'none';
    if (words !== '' && !TURNS.includes(words as Turn)) fault('Turned', `“${words.slice(0, 40)}” is none of ${TURNS.join(', ')}`);
    const output = cell('Output');
    if (output !== '' && !show.screens.outputs.some((o) => o.name.toLowerCase() === output.toLowerCase()))
      fault('Output', `no output here is called “${output.slice(0, 60)}”`);
    const blended = cell('Blended').toLowerCase();
    return {
      name,
      output: output || (before?.outputId ? nameOf(show, 'screen', before.outputId) : ''),
      rect,
      area: written.length === 4 ? { x, y, width, height } : (before?.area ?? null),
      turn,
      size,
      blends: places.get('Blended') === -1 ? (before?.blends ?? false) : YES.has(blended),
    };
  });
  const plan = { width: surface.width, height: surface.height, pitch: surface.pitch, screens };
  for (const { path, message } of faults.length > 0 ? [] : check(SurfacePlan, plan)) {
    const row = /screens\[(\d+)\]/.exec(path);
    faults.push({ row: row ? Number(row[1]) + 1 : 0, column: path.split('.').slice(1).join('.'), message });
  }
  return { plan: faults.length > 0 ? null : plan, faults };
}
