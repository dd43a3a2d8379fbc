/** A dial's scale as a person types it from the manual's table, and back. */
import { plainNumber } from '../units/index.ts';
import { dividesEvenly } from './dialScale.ts';
import type { DialScale } from './rig.ts';

const NUMBER = String.raw`[+−-]?\d+(?:\.\d+)?`;
const RANGE = new RegExp(
  String.raw`^(${NUMBER})\s*(?:to|\.\.+|…|–)\s*(${NUMBER})(?:\s*(?:,|;)?\s*(?:by|in steps of|steps? of|steps?|/)\s*(${NUMBER}))?$`,
  'i',
);

const toNumber = (text: string): number => Number(plainNumber(text)) + 0;
const isNumber = (text: string): boolean => new RegExp(`^${NUMBER}$`).test(text);

/** What makes a text no scale, in one sentence. */
export class ScaleProblem extends Error {
  override name = 'ScaleProblem';
}

/**
 * Reads "0 to 100", "-20 to 20 by 2", "100, 200, 300" or "off, on". Quotes keep a number a name: "1", "2".
 * @throws ScaleProblem
 */
export function parseScaleText(text: string): DialScale {
  const words = text.trim();
  if (words === '') throw new ScaleProblem('Give a range (0 to 100 by 5), numbers (100, 200, 300) or names (off, on).');
  const range = RANGE.exec(words);
  if (range) {
    const scale = { kind: 'steps' as const, min: toNumber(range[1]), max: toNumber(range[2]), step: toNumber(range[3] ?? '1') };
    if (scale.step <= 0) throw new ScaleProblem('The step must be above 0.');
    if (scale.min > scale.max) throw new ScaleProblem(`${range[1]} to ${range[2]} is upside down.`);
    if (!dividesEvenly(scale)) throw new ScaleProblem(`Steps of ${scale.step} do not lead from ${range[1]} to ${range[2]}.`);
    return scale;
  }
  const items = [...words.matchAll(/\s*("(?:[^"]*)"|[^,;]*)\s*(?:[,;]|$)/g)].map((match) => match[1].trim()).filter((item) => item !== '');
  if (items.every(isNumber)) {
    const values = items.map(toNumber);
    const at = values.findIndex((value, i) => i > 0 && value <= values[i - 1]);
    if (at > 0) throw new ScaleProblem(`The numbers must rise: ${items[at]} comes after ${items[at - 1]}.`);
    return { kind: 'values', values };
  }
  const options = items.map((item) => item.replace(/^"(.*)"$/, '$1'));
  const twice = options.find((option, i) => options.indexOf(option) !== i);
  if (twice !== undefined) throw new ScaleProblem(`"${twice}" is there twice.`);
  const long = options.find((option) => option.length > 24);
  if (long !== undefined) throw new ScaleProblem(`"${long}" is longer than 24 characters.`);
  return { kind: 'options', options };
}

/** The scale as `parseScaleText` reads it. */
export function scaleText(scale: DialScale): string {
  if (scale.kind === 'steps') return `${scale.min} to ${scale.max}${scale.step === 1 ? '' : ` by ${scale.step}`}`;
  if (scale.kind === 'values') return scale.values.join(', ');
  const mustQuote = (option: string) => /[,;"]|^\s|\s$/.test(option);
  const quoted = scale.options.map((option) => (mustQuote(option) ? `"${option}"` : option));
  return quoted.every(isNumber) || quoted.length === 1 ? scale.options.map((option) => `"${option}"`).join(', ') : quoted.join(', ');
}
