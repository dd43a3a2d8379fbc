/** What to do next, and why. What the other folders may use. */

export { adviceToSay, type ToSay } from './adviceToSay.ts';
export {
  AM_ZONE,
  amGain,
  type CarrierBracket,
  type CompressionChoice,
  canWait,
  carrierBracket,
  compressionChoices,
  compressionWords,
  type DeviationHeard,
  type DialExperiment,
  type DriveKnee,
  deviationsBeside,
  dialExperiment,
  driveKnee,
  fmGain,
  fmWidthOn,
  type HeardThrough,
  type Modulation,
  type ModulationHeard,
  modulationsBeside,
  type OffsetHeard,
  type OffsetLine,
  type RadioGain,
} from './advisors/index.ts';
export {
  type AirCheck,
  airCheck,
  CHECK_ORDER,
  CHECK_SIDES,
  type CheckLine,
  type CheckSide,
  type CheckStep,
  linesOf,
  meaningOf,
  orderDone,
  readingFirst,
  saidIn,
} from './airCheck.ts';
export { airCheckNext, type CheckedCard, type CheckNext } from './airCheckNext.ts';
export { type GainAdvice, type GainReading, nextGain } from './alcGain.ts';
export {
  type AlcReading,
  type AlcStanding,
  alcAbout,
  alcStanding,
  changedSince,
  gainSentence,
  type HeardWay,
  SAID,
  SAID_LABELS,
  type Said,
  type StandingCard,
  stepSentence,
} from './alcStanding.ts';
export { isBaseline, toBaseline } from './baseline.ts';
export { type LevelInput, SKIPS_COMPRESSION } from './beforeTone.ts';
export { type Calibration, calibrations, learnedLines } from './calibration.ts';
export { type CopiedCard, copyCard, copyOrSay } from './copyCard.ts';
export { adviseEqualizer, type FitAnswer } from './equalizerAdvice.ts';
export { type EqualizerFit, type Fit, FitImpossible, type FitInput, fitEqualizer, isWorthwhile } from './fitEqualizer.ts';
export { type MonitorWorth, monitorWorth, type SpreadOver } from './levelSpread.ts';
export { changeText, expectText, moveText } from './moveText.ts';
export { nearestPassband } from './nearestDials.ts';
export {
  ALC_SCHOOL_KEYS,
  ALC_SCHOOLS,
  type AlcSchoolKey,
  type Came,
  COMPRESSION_SCHOOLS,
  COMPRESSIONS,
  type CompressionWish,
  closedLoop,
  compressionCameText,
  driveOf,
  type ExpectedGot,
  expectedGot,
  FAR_DB,
  type GoalState,
  type History,
  LEVEL_ORDERS,
  type Learned,
  type LevelOrder,
  type LoopOptions,
  type LoopOver,
  type LoopRadio,
  type LoopWish,
  MOST_SWR,
  type NextAnswer,
  type NextInput,
  nextAnswer,
  nextChannelCameText,
  offsetsOf,
  type Purposed,
  parseHistory,
  type Reasons,
  rangeAbout,
  type SchoolWish,
  type SeenOver,
  type SeenVoice,
  type StoredOver,
  type StoredReading,
  type StoredReport,
  schoolOf,
  seenHistory,
  simulatedRadio,
  type Tap,
  type TestMeasurement,
  type TrueState,
  toneCameText,
  tooMuchDrive,
  trueState,
  withZone,
} from './next/index.ts';
export { type Expectation, expectTogether, type RankedMove, rankMoves } from './nextMove.ts';
export { type NextStep, nextStep, type StepInput } from './nextStep.ts';
export { type Hearing, type OneOver, oneOver, type SharedFinding } from './oneOver.ts';
export { narrowVoiceNote, offsetVoiceNote, passbandWords, reachesBeyond } from './questions.ts';
export { PATH_LABELS, PATH_WEIGHT, REPORT_PATHS, type ReportPath } from './reportPaths.ts';
export { answerSoundQuestion, isUnknown, type SoundAnswer, soundWords } from './soundQuestion.ts';
export { ribbon, type StageView } from './stageStatus.ts';
export { SCHOOL_RULES, type School, type StartingCard, schoolsFor, startingCard } from './startingCard.ts';
export { type CardToHear, type Driven, type Elsewhere, type RecordedWith, StationModel, type Where } from './stationModel.ts';
export { defaultTarget, targetProblem, targetSchema, tiltedTarget } from './targets.ts';
export { targetCurve, voiceCurve } from './toneCurves.ts';
export { bandEffects, levelChangeDb, toneBasis, toneDoubtDb, toneErrorDb } from './toneError.ts';
export { estimateTone, type HeardOver } from './toneEstimate.ts';
export { expectedText, groupMoves, type KeptMove, type LevelOfOver, levelDropText, type TrailGroup } from './trail.ts';
export { type HeardReport, type Verdict, type WeighedReports, weighReports } from './weighReports.ts';
