/** The next move from everything known so far. What the other folders may use. */

export {
  closedLoop,
  type LoopOptions,
  type LoopOver,
  type LoopRadio,
  type LoopWish,
  simulatedRadio,
  type TrueState,
  trueState,
} from './closedLoop.ts';
export { nextAnswer } from './engine.ts';
export { type History, type HistoryOver, historySchema, parseHistory, schoolOf } from './historyFile.ts';
export {
  type CompressionWish,
  type GoalState,
  type NextAnswer,
  type NextInput,
  type SchoolWish,
  type SeenOver,
  type SeenVoice,
  TAPS,
  type Tap,
} from './seen.ts';
