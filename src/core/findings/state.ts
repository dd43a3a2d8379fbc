/** How a stage or a number stands, in one word. */

/** Order, doubt and ignorance of a stage. */
export type State = 'ok' | 'watch' | 'fault' | 'stale' | 'unknown';

/** Each state as it is read out. */
export const STATE_WORDS: Readonly<Record<State, string>> = {
  ok: 'in order',
  watch: 'worth a look',
  fault: 'fault',
  stale: 'reading is stale',
  unknown: 'not measured yet',
};
