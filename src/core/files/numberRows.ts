/** Rows of numbers as text, however a spreadsheet or an instrument wrote them. */
import { FormatError } from '../schema/index.ts';

/** The numbers of a line, and which line it is, from 1. */
export interface NumberRow {
  /** Counted from 1. */
  readonly line: number;
  readonly values: readonly number[];
}

const isNumberLike = (text: string) => /^[-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?$/i.test(text);

/** How a line writes its columns and decimals. */
interface Dialect {
  readonly separator: RegExp;
  readonly hasDecimalCommas: boolean;
}

/** A semicolon or a tab separates; a comma then can only be a decimal. Else spaces do, where they leave whole cells; else commas. */
function dialectOf(line: string, columns: number): Dialect {
  if (line.includes(';')) return { separator: /\s*;\s*/, hasDecimalCommas: true };
  if (line.includes('\t')) return { separator: /\s*\t\s*/, hasDecimalCommas: true };
  const bySpaces = line.split(/\s+/);
  if (bySpaces.length === columns && bySpaces.every((cell) => !cell.endsWith(','))) return { separator: /\s+/, hasDecimalCommas: true };
  return { separator: /\s*,\s*|\s+/, hasDecimalCommas: false };
}

/**
 * Reads rows of `columns` numbers. Blank lines, lines starting with # and headings before the first row are passed
 * over. Decimal commas are understood where something else separates the columns.
 * @param what names a line in errors ("Hz dB")
 * @throws FormatError naming the line that is wrong
 */
export function parseNumberRows(text: string, columns: number, what: string, mostLines: number): NumberRow[] {
  const lines = text
    .replace(/^\uFEFF/, '')
    .split(/\r\n|\r|\n/)
    .map((raw, i) => ({ line: i + 1, text: raw.trim().replace(/[,;]$/, '') }))
    .filter((each) => each.text !== '' && !each.text.startsWith('#'));
  if (lines.length > mostLines) throw new FormatError(`There are more than ${mostLines} lines.`);
  const isHeading = (line: string) => !/^["']?[-+.,]?\d/.test(line);
  const first = lines.findIndex((each) => !isHeading(each.text));
  const data = first === -1 ? [] : lines.slice(first);
  return data.map(({ line, text: row }) => {
    const dialect = dialectOf(row, columns);
    const cells = row.split(dialect.separator).map((cell) => cell.replace(/^"|"$/g, ''));
    if (!dialect.hasDecimalCommas && cells.length === 2 * columns) {
      throw new FormatError(
        `Line ${line} has ${cells.length} numbers: if commas are its decimals, separate the columns with semicolons: ${row.slice(0, 60)}`,
      );
    }
    const numbers = cells.map((cell) => (dialect.hasDecimalCommas ? cell.replace(',', '.') : cell));
    if (numbers.length !== columns || !numbers.every((cell) => isNumberLike(cell) && Number.isFinite(Number(cell)))) {
      throw new FormatError(`Line ${line} is not "${what}": ${row.slice(0, 60)}`);
    }
    return { line, values: numbers.map(Number) };
  });
}
