/** What operators type. What the other folders may use. */

export { type DialLine, readDialLine } from './dialLine.ts';
export { suggestionsFor } from './suggestions.ts';
