/** Advisors of single stages. What the other folders may use. */

export { AM_ZONE, amGain, type Modulation, type ModulationHeard, modulationsBeside } from './amGain.ts';
export { type CarrierBracket, canWait, carrierBracket, type OffsetHeard, type OffsetLine } from './carrierBracket.ts';
export { type CompressionChoice, compressionChoices, compressionWords } from './compressionChoices.ts';
export { type DialExperiment, dialExperiment } from './dialExperiment.ts';
export { type DriveKnee, type DriveLine, driveKnee } from './driveKnee.ts';
export { type DeviationHeard, deviationsBeside, fmGain, fmWidthOn } from './fmGain.ts';
export type { HeardThrough, RadioGain } from './gainTurn.ts';
