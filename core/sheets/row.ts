/** A row as one text: thousands of rows are kept, compared and sent as fast as that. */

const MARKS: Record<string, string> = { '\t': '\\t', '\n': '\\n', '\\': '\\\\' };
const MEANT: Record<string, string> = { '\\t': '\t', '\\n': '\n', '\\\\': '\\' };

/** Cells as a line: parted by tabs; `\t`, `\n` and `\\` stand for a tab, a new line and `\` in a cell. Carriage returns are left out. */
export const lineOf = (cells: readonly string[]): string =>
  cells.map((c) => (/[\t\n\r\\]/u.test(c) ? c.replaceAll('\r', '').replaceAll(/[\t\n\\]/gu, (sign) => MARKS[sign] ?? '') : c)).join('\t');

/** The cells of a line. */
export const cellsOf = (line: string): string[] => {
  const cells = line.split('\t');
  return line.includes('\\') ? cells.map((c) => c.replaceAll(/\\[tn\\]/gu, (mark) => MEANT[mark] ?? '')) : cells;
};
