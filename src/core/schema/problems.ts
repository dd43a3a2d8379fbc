/** What is wrong with input, and where. */
import { plainPatternWords } from './plainText.ts';

/** What is wrong, and where in the file. */
export interface Problem {
  /** Where in the file, as a dotted path ("dials.3.scale"); empty for the whole of it. */
  readonly place: string;
  /** One sentence. */
  readonly text: string;
}

/** Input refused, with one sentence a problem. */
export class InvalidInput extends Error {
  override name = 'InvalidInput';
  constructor(readonly problems: readonly Problem[]) {
    super(problems.map(({ text }) => text).join(' '));
  }
}

/** Collecting every error of a huge file could take for ever; those are told their first only. */
const MOST_NODES = 20_000;
const MOST_TOLD = 25;

/** What Ajv leaves on a check that found something. */
export interface CompiledCheck {
  (input: unknown): boolean;
  errors?: readonly CheckError[] | null;
}
interface CheckError {
  readonly instancePath: string;
  readonly keyword: string;
  readonly message?: string;
  // biome-ignore lint/suspicious/noExplicitAny: each keyword has parameters of its own
  readonly params: Record<string, any>;
}

/**
 * A schema's check: nothing, or what is wrong with the input.
 * @param what names it in sentences ("rig profile")
 * @param fast compiled to stop at the first error
 * @param thorough compiled to collect all (both: bin/lib/compileChecks.ts)
 */
export function checker(what: string, fast: CompiledCheck, thorough: CompiledCheck): (input: unknown) => readonly Problem[] {
  return (input) => {
    if (fast(input)) return [];
    const check = isSmall(input) ? thorough : fast;
    check(input);
    return told(what, check.errors ?? []);
  };
}

function isSmall(input: unknown): boolean {
  let left = MOST_NODES;
  const visit = (value: unknown): boolean => {
    if (--left < 0) return false;
    return typeof value !== 'object' || value === null || Object.values(value).every(visit);
  };
  return visit(input);
}

function told(what: string, errors: readonly CheckError[]): Problem[] {
  const byPlace = new Map<string, string[]>();
  for (const error of errors) {
    const place = error.instancePath.slice(1).replaceAll('/', '.');
    byPlace.set(place, [...(byPlace.get(place) ?? []), wordsOf(error)]);
  }
  return [...byPlace].slice(0, MOST_TOLD).map(([place, words]) => ({
    place,
    text: `This is not a valid ${what}${place ? ` at ${place}` : ''}: ${[...new Set(words)].join('; ')}.`,
  }));
}

function wordsOf({ message, params, keyword }: CheckError): string {
  if (keyword === 'additionalProperties') return `"${params.additionalProperty}" is not known here`;
  if (keyword === 'enum') return `must be one of ${params.allowedValues.join(', ')}`;
  if (keyword === 'const') return `must be ${JSON.stringify(params.allowedValue)}`;
  return (keyword === 'pattern' && plainPatternWords(params.pattern)) || (message ?? 'unknown problem');
}
