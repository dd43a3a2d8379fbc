/** Listening to recordings side by side. What the other folders may use. */

export { type BlindTest, beginTest, blindStep, type Choice, drawChoice, verdict } from './blindTest.ts';
export { levelMatched, levelsAsTheyAre, listeningGain } from './levelMatching.ts';
export { type Heard, listen, look, type View } from './listen.ts';
export { viewOf } from './viewOf.ts';
