/** The next move from everything known so far. What the other folders may use. */

export { type Came, compressionCameText, nextChannelCameText, toneCameText } from './cameText.ts';
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
export { driveOf, MOST_SWR, tooMuchDrive } from './drive.ts';
export { nextAnswer } from './engine.ts';
export { type ExpectedGot, expectedGot } from './expectedGot.ts';
export { type History, type HistoryOver, historySchema, parseHistory, schoolOf } from './historyFile.ts';
export { FAR_DB } from './offset.ts';
export { offsetsOf } from './offsetsOf.ts';
export {
  ALC_SCHOOL_KEYS,
  ALC_SCHOOLS,
  type AlcSchoolKey,
  COMPRESSION_SCHOOLS,
  COMPRESSIONS,
  type CompressionWish,
  LEVEL_ORDERS,
  type LevelOrder,
  withZone,
} from './schools.ts';
export {
  type GoalState,
  type Learned,
  type NextAnswer,
  type NextInput,
  type Purposed,
  type Reasons,
  type SchoolWish,
  type SeenOver,
  type SeenVoice,
  TAPS,
  type Tap,
  type TestMeasurement,
} from './seen.ts';
export { type StoredOver, type StoredReading, type StoredReport, seenHistory } from './seenHistory.ts';
export { rangeAbout } from './words.ts';
