/** CSV for spreadsheets (RFC 4180), with no cell that a spreadsheet would run as a formula. */

/** What a cell may hold; null leaves it empty. */
export type Cell = string | number | null;

/**
 * What a spreadsheet may take for the beginning of a formula: = + - @ also in their full width, behind anything that
 * takes no room; a tab or return at the very beginning.
 */
const FORMULA = /^(?:[\t\r\n]|[\s\p{Cc}\p{Cf}\p{Z}]*[=+\-@\uFF1D\uFF0B\uFF0D\uFF20\uFE66\uFE62\uFE63\uFE6B])/u;

/**
 * One cell. Text that begins as a formula does gets an apostrophe in front, which spreadsheets take as "this is
 * text"; numbers stay numbers.
 */
function cellText(cell: Cell): string {
  if (cell === null) return '';
  if (typeof cell === 'number') return String(cell);
  const text = FORMULA.test(cell) ? `'${cell}` : cell;
  return /[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
}

/** One row, ended by CR LF. */
export const csvLine = (row: readonly Cell[]): string => `${row.map(cellText).join(',')}\r\n`;

/** Rows as CSV text. */
export const csv = (rows: readonly (readonly Cell[])[]): string => rows.map(csvLine).join('');
