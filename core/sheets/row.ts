/** A row as one text: thousands of rows are kept, compared and sent as fast as that. */

const MARKS: Record<string, string> = { '\t': '\\t', '\n': '\\n', '\\': '\\\\' };
const MEANT: Record<string, string> = { '\\t': '\t', '\\n': '\n', '\\\\': '\\' };

/** Cells as a line: parted by tabs; `\t`, `\n` and `\\` stand for a tab, a new line and `\` in a cell. Carriage returns are left out. */
export const lineOf = (cells: readonly string[]): string =>
  cells.map((c) => (/[\t\n\r\\]/u.test(c) ? c.replaceAll('\r', '').replaceAll(/[\t\n\\]/gu, (sign) => MARKS[sign] ?? '') : c)).join('\t');

/** One cell of a line, from 0, without taking the others apart; empty where there is none. */
export function cellOf(line: string, at: number): string {
  let from = 0;
  for (let i = 0; i < at; i += 1) {
    const tab = line.indexOf('\t', from);
    if (tab < 0) return '';
    from = tab + 1;
  }
  const end = line.indexOf('\t', from);
  const cell = end < 0 ? line.slice(from) : line.slice(from, end);
  return cell.includes('\\') ? cell.replaceAll(/\\[tn\\]/gu, (mark) => MEANT[mark] ?? '') : cell;
}

/** The cells of a line. */
export const cellsOf = (line: string): string[] => {
  const cells = line.split('\t');
  return line.includes('\\') ? cells.map((c) => c.replaceAll(/\\[tn\\]/gu, (mark) => MEANT[mark] ?? '')) : cells;
};
