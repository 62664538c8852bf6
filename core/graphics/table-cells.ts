/** Tables as what they are drawn of: plates, places and cells, each an element by itself, so that a row can move to another place. */
import { createElement } from './create';
import { type Element, type TableContent } from './element';

/** Room at both sides of a cell, times the height of a row. */
const MARGIN = 0.22;
/** Width of the places, times the height of a row. */
const PLACE = 1.1;

type TableElement = Element & { content: TableContent };

/** Left edge and width of each cell; of the places first, where rows are numbered. */
function columnsOf({ width, content }: TableElement): { x: number; width: number }[] {
  const place = content.numbered ? Math.min(width / 3, content.rowHeight * PLACE) : 0;
  const shares = content.columns.reduce((sum, c) => sum + c.share, 0) || 1;
  let x = place;
  const cells = content.columns.map((c) => {
    const cell = { x, width: ((width - place) * c.share) / shares };
    x += cell.width;
    return cell;
  });
  return content.numbered ? [{ x: 0, width: place }, ...cells] : cells;
}

function cellsOf(table: TableElement): Element[] {
  const { content } = table;
  const { rowHeight, gap, style, numbered, columns } = content;
  const places = columnsOf(table);
  const margin = rowHeight * MARGIN;
  // What is special about the table as a whole is each part's own: how it comes, stays and goes, and what masks it.
  const common = { parentId: table.parentId, mask: table.mask, in: table.in, out: table.out, change: table.change, opacity: table.opacity };
  const at = (i: number) => table.y + i * (rowHeight + gap);
  const plates = content.rows.flatMap((_, i): Element[] =>
    content.plate === null
      ? []
      : [
          createElement(
            `${table.id}~plate~${i}`,
            'rectangle',
            { x: table.x, y: at(i), width: table.width, height: rowHeight },
            {
              ...common,
              corners: table.corners,
              fill: { kind: 'colour', colour: content.plate, opacity: content.plateOpacity },
            },
          ),
        ],
  );
  const cells = content.rows.flatMap(({ key, cells: words }, i) =>
    words.flatMap((text, c): Element[] => {
      const place = places[c];
      if (!place || text === '') return [];
      const isPlace = numbered && c === 0;
      return [
        createElement(
          // Places stay where they are; cells go with their row.
          isPlace ? `${table.id}~place~${i}` : `${table.id}~${key}~${c}`,
          'text',
          { x: table.x + place.x + margin, y: at(i), width: Math.max(1, place.width - 2 * margin), height: rowHeight },
          {
            ...common,
            fill: table.fill,
            stroke: table.stroke,
            shadow: table.shadow,
            glow: table.glow,
            content: {
              kind: 'text',
              text,
              style: {
                ...style,
                wrap: false,
                down: 'middle',
                across: isPlace ? 'right' : (columns[numbered ? c - 1 : c]?.across ?? 'left'),
              },
              accents: [],
            },
          },
        ),
      ];
    }),
  );
  return [...plates, ...cells];
}

const isTable = (e: Element): e is TableElement => e.content.kind === 'table';

/** Elements with every table in its parts; `parts` has their identities. The same list where there is no table. */
export function withTableCells(elements: readonly Element[]): { elements: readonly Element[]; parts: ReadonlySet<string> } {
  if (!elements.some(isTable)) return { elements, parts: new Set() };
  const parts = new Set<string>();
  const all = elements.flatMap((e) => {
    if (!isTable(e)) return [e];
    if (!e.visible) return [];
    const cells = cellsOf(e);
    for (const { id } of cells) parts.add(id);
    return cells;
  });
  return { elements: all, parts };
}

/** Frames that rows take to another place, where a table has no move for changes of its own. */
export const ROWS_MOVE_FRAMES = 12;
