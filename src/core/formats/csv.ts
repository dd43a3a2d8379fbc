/** CSV for spreadsheets (RFC 4180), with no cell that a spreadsheet would run as a formula. */

export type Cell = string | number | null;

/**
 * One cell. Text that begins as a formula does (= + - @, tab, return) gets an apostrophe in front, which
 * spreadsheets take as "this is text"; numbers stay numbers.
 */
function cellText(cell: Cell): string {
  if (cell === null) return '';
  if (typeof cell === 'number') return String(cell);
  const text = /^[=+\-@\t\r]/.test(cell.trimStart()) || /^[\t\r]/.test(cell) ? `'${cell}` : cell;
  return /[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
}

/** Rows as CSV text, each ended by CR LF. */
export const csv = (rows: readonly (readonly Cell[])[]): string => rows.map((row) => `${row.map(cellText).join(',')}\r\n`).join('');
