/** Command-line options: what each command takes, checked before any work starts. */
import { parseArgs } from 'node:util';
import { UsageError } from './errors.ts';

type Values = Record<string, string | boolean | readonly string[] | undefined>;

export interface Parsed {
  readonly values: Values;
  readonly files: readonly string[];
}

/** "--carrier -1200" as "--carrier=-1200": a value may start with a minus sign. */
const joined = (args: readonly string[]): string[] =>
  args.flatMap((arg, i) => {
    if (/^-[\d.]/.test(arg) && /^--[a-z]+$/.test(args[i - 1] ?? '')) return [];
    return /^--[a-z]+$/.test(arg) && /^-[\d.]/.test(args[i + 1] ?? '') ? [`${arg}=${args[i + 1]}`] : [arg];
  });

/** @param names options that take a value; `json` is always known; @param flags options that take none; @param repeated those of the names that may be given several times */
export function parse(
  args: readonly string[],
  names: readonly string[],
  flags: readonly string[] = [],
  repeated: readonly string[] = [],
): Parsed {
  const withValue = Object.fromEntries(names.map((name) => [name, { type: 'string' as const, multiple: repeated.includes(name) }]));
  const without = Object.fromEntries([...flags, 'json'].map((name) => [name, { type: 'boolean' as const }]));
  try {
    const { values, positionals } = parseArgs({
      args: joined(args),
      options: { ...withValue, ...without },
      allowPositionals: true,
      strict: true,
    });
    return { values: values as Values, files: positionals };
  } catch (error) {
    throw new UsageError((error as Error).message.split('. To specify')[0].split('\n')[0]);
  }
}

export function required({ values }: Parsed, name: string): string {
  const value = values[name];
  if (typeof value !== 'string' || value === '') throw new UsageError(`--${name} is missing`);
  return value;
}

/** Every value of an option that may be given several times, in order. */
export function everyOf({ values }: Parsed, name: string): readonly string[] {
  const value = values[name];
  if (value === undefined || typeof value === 'boolean' || value.length === 0) throw new UsageError(`--${name} is missing`);
  return typeof value === 'string' ? [value] : value;
}

export function optional({ values }: Parsed, name: string): string | undefined {
  const value = values[name];
  return typeof value === 'string' ? value : undefined;
}

export function oneOf<T extends string>(name: string, value: string, allowed: readonly T[]): T {
  const found = allowed.find((each) => each === value);
  if (!found) throw new UsageError(`--${name} is "${value}"; it can be ${allowed.join(', ')}`);
  return found;
}

export function noFiles({ files }: Parsed): void {
  if (files.length > 0) throw new UsageError(`what is "${files[0]}"? This command takes no plain file`);
}

/** A number in a range; undefined when not given. */
export function numberOf(parsed: Parsed, name: string, [least, most]: readonly [number, number]): number | undefined {
  const text = optional(parsed, name);
  if (text === undefined) return undefined;
  const value = Number(text);
  if (text.trim() === '' || !Number.isFinite(value) || value < least || value > most)
    throw new UsageError(`--${name} is "${text}"; it goes from ${least} to ${most}`);
  return value;
}

/** A frequency offset in hertz. */
export const hertzOf = (parsed: Parsed, name: string): number | undefined => numberOf(parsed, name, [-1e8, 1e8]);

/** A whole number from `least` on. */
export function wholeOf(parsed: Parsed, name: string, least: number): number | undefined {
  const text = optional(parsed, name);
  if (text === undefined) return undefined;
  if (!/^\d{1,9}$/.test(text) || Number(text) < least) throw new UsageError(`--${name} is counted from ${least}`);
  return Number(text);
}
