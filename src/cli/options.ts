/** Command-line options: what each command takes, checked before any work starts. */
import { parseArgs } from 'node:util';
import { UsageError } from './errors.ts';

type Values = Record<string, string | boolean | undefined>;

export interface Parsed {
  readonly values: Values;
  readonly files: readonly string[];
}

/** @param names options that take a value; `json` is always known */
export function parse(args: readonly string[], names: readonly string[]): Parsed {
  const options = Object.fromEntries(names.map((name) => [name, { type: 'string' as const }]));
  try {
    const { values, positionals } = parseArgs({
      args: [...args],
      options: { ...options, json: { type: 'boolean' as const } },
      allowPositionals: true,
      // "--carrier -1200": a value may start with a minus sign.
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
