/**
 * Text that is what it looks like: no control characters, no marks that turn the direction of writing around, none
 * that take no room. Sources: Unicode categories Cc, Cf, Zl, Zp; UTS 39 (Unicode Security Mechanisms), section 3.
 */

const HIDDEN = '\\p{Cc}\\p{Zl}\\p{Zp}\\u00AD\\u061C\\u180E\\u200B-\\u200F\\u202A-\\u202E\\u2060-\\u206F\\uFEFF\\uFFF9-\\uFFFB';

/** JSON Schema pattern of one line; it may be empty. */
export const PLAIN_LINE = `^[^${HIDDEN}]*$`;
/** The same, with something to see in it. */
export const PLAIN_NAME = `^(?=[^]*[^\\s${HIDDEN}])[^${HIDDEN}]*$`;
/** Text of several lines. */
export const PLAIN_TEXT = `^(?:[^${HIDDEN}]|[\\t\\n\\r])*$`;

/** What to say of text that is refused. */
export const HIDDEN_WORDS = 'has characters that can not be seen (control or direction marks)';

const PATTERNS: Readonly<Record<string, string>> = {
  [PLAIN_LINE]: HIDDEN_WORDS,
  [PLAIN_TEXT]: HIDDEN_WORDS,
  [PLAIN_NAME]: `is empty, or ${HIDDEN_WORDS}`,
};

/** A schema's pattern in words; undefined for any other pattern. */
export const plainPatternWords = (pattern: unknown): string | undefined => PATTERNS[String(pattern)];
