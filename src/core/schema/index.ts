/** Reading what comes from outside: JSON, plain text, and the errors that say what is wrong. What the other folders may use. */

export { FormatError } from './formatError.ts';
export { readJson } from './json.ts';
export { PLAIN_LINE, PLAIN_NAME, PLAIN_TEXT, plainPatternWords } from './plainText.ts';
export { checker, InvalidInput, type Problem } from './problems.ts';
