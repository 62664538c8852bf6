/** Cells of CSV files that spreadsheets open: none may be taken for a formula, and each comes back as it went out. */

/** Begins as a formula would, blanks aside, or with one of the characters that make spreadsheets look further. */
const FORMULA = /^'*(?:[\t\r]|\s*[=+\-@])/;
const GUARDED = /^'+(?:[\t\r]|\s*[=+\-@])/;

/** A text that no spreadsheet takes for a formula: one that would be gets an apostrophe before it. */
export const guardCell = (text: string): string => (FORMULA.test(text) ? `'${text}` : text);

/** The text that `guardCell` was given. */
export const unguardCell = (text: string): string => (GUARDED.test(text) ? text.slice(1) : text);

/** A guarded cell as RFC 4180 wants it. */
export function csvCell(text: string): string {
  const safe = guardCell(text);
  return /[",\r\n]/.test(safe) || safe.trim() !== safe ? `"${safe.replace(/"/g, '""')}"` : safe;
}
