/** Dials as rows of text, copied from a manual's table: menu address, label, range, factory value, unit. */
import type { Problem } from '../schema/index.ts';
import { isOnScale, parseDialText, rangeText, restOf } from './dialScale.ts';
import type { Dial, DialValue } from './rig.ts';
import { parseScaleText, ScaleProblem } from './scaleText.ts';

/** Dials read from pasted rows, and what was wrong with the others. */
export interface DialRows {
  readonly dials: readonly Dial[];
  readonly problems: readonly Problem[];
}

const MOST_ROWS = 200;

/** A dial's id made of its label, different from those taken. */
export function dialIdFor(label: string, taken: readonly string[]): string {
  const base =
    label
      .normalize('NFKD')
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-+|-+$/g, '')
      .slice(0, 34) || 'dial';
  let id = base;
  for (let n = 2; taken.includes(id); n++) id = `${base}-${n}`;
  return id;
}

/**
 * Reads rows of "menu; label; range; factory value; unit", separated by tabs or semicolons; the last two may be
 * left out. Rows that can't be read become problems that name the line.
 * @param stage the place in the path that the dials belong to
 */
export function parseDialRows(text: string, stage: Dial['stage'], taken: readonly string[]): DialRows {
  const dials: Dial[] = [];
  const problems: Problem[] = [];
  const lines = text.split(/\r\n|\r|\n/);
  for (const [i, raw] of lines.entries()) {
    if (raw.trim() === '') continue;
    if (dials.length >= MOST_ROWS) {
      problems.push({ place: `line ${i + 1}`, text: `A radio has at most ${MOST_ROWS} dials; the rest was left out.` });
      break;
    }
    const cells = raw.split(/\t|;/).map((cell) => cell.trim());
    const read = parseRow(cells, stage, [...taken, ...dials.map(({ id }) => id)]);
    if (typeof read === 'string') problems.push({ place: `line ${i + 1}`, text: `Line ${i + 1}: ${read}` });
    else dials.push(read);
  }
  return { dials, problems };
}

function parseRow(
  [menu, label, range, factory, unit = '']: readonly string[],
  stage: Dial['stage'],
  taken: readonly string[],
): Dial | string {
  if (label === undefined || range === undefined) return 'it needs at least menu address, label and range.';
  if (label === '' || label.length > 60) return 'the label must have 1 to 60 characters.';
  if (menu.length > 20) return `"${menu.slice(0, 20)}" is too long for a menu address.`;
  if (unit.length > 8) return `"${unit.slice(0, 12)}" is too long for a unit.`;
  try {
    const scale = parseScaleText(range);
    const rest: DialValue | null = factory ? parseDialText(scale, factory) : restOf(scale);
    if (rest === null || !isOnScale(scale, rest)) return `the factory value ${factory} is not on the scale ${rangeText({ scale, unit })}.`;
    return { id: dialIdFor(label, taken), label, menu, stage, unit, scale, rest };
  } catch (error) {
    if (error instanceof ScaleProblem) return error.message;
    throw error;
  }
}
