/** Curves over frequency. What the other folders may use. */

export { type CurvePoint, curveAt } from './curve.ts';
export { LONG_TERM_SPEECH } from './longTermSpeech.ts';
