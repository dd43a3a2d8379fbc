/** JSON from strangers: bounded in size and depth, and free of keys that reach into prototypes. */
import { FormatError } from './formatError.ts';

const MOST_CHARACTERS = 1_000_000;
const DEEPEST = 40;
const FORBIDDEN = ['__proto__', 'constructor', 'prototype'];

/**
 * Reads JSON text. What it means is for a schema to say.
 * @param most longest text taken, in characters
 * @throws FormatError saying what is wrong
 */
export function readJson(text: string, most = MOST_CHARACTERS): unknown {
  if (text.length > most) throw new FormatError(`The file is too large: ${text.length} characters; ${most} are the most.`);
  const clean = text.replace(/^\uFEFF/, '');
  if (depthOf(clean) > DEEPEST) throw new FormatError(`The file is nested more than ${DEEPEST} levels deep.`);
  let value: unknown;
  try {
    value = JSON.parse(clean);
  } catch (error) {
    throw new FormatError(`This is not valid JSON (${(error as Error).message.slice(0, 120)}).`);
  }
  refuseForbiddenKeys(value);
  return value;
}

/** How deep brackets nest, counted before parsing so that a hostile text can't exhaust the parser. */
function depthOf(text: string): number {
  let depth = 0;
  let deepest = 0;
  let isString = false;
  for (let i = 0; i < text.length; i++) {
    const c = text[i];
    if (isString) {
      if (c === '\\') i++;
      else if (c === '"') isString = false;
    } else if (c === '"') isString = true;
    else if (c === '{' || c === '[') deepest = Math.max(deepest, ++depth);
    else if (c === '}' || c === ']') depth--;
  }
  return deepest;
}

function refuseForbiddenKeys(value: unknown): void {
  if (typeof value !== 'object' || value === null) return;
  for (const key of Object.keys(value)) {
    if (!Array.isArray(value) && FORBIDDEN.includes(key)) throw new FormatError(`The key "${key}" is not allowed in a file.`);
    refuseForbiddenKeys((value as Record<string, unknown>)[key]);
  }
}
