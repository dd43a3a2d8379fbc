/** The guided run over a card: steps and schools as data. What the other folders may use. */

export type { TuneEvidence } from './enough.ts';
export { type TuneMove, tuneMove } from './move.ts';
export { type PassbandChoice, passbandChoices } from './passbands.ts';
export { practiceScore, type ScoreLine } from './practiceScore.ts';
export {
  ALC_CHOICES,
  type AlcChoice,
  afterAct,
  beginRun,
  isOver,
  saidBy,
  stepsOf,
  TUNE_ACTS,
  TUNE_EAR_LABELS,
  TUNE_EARS,
  TUNE_STEPS,
  type TuneAct,
  type TuneEars,
  type TuneRun,
  type TuneSchool,
  type TuneStepKey,
  tuneRunSchema,
  usualSchool,
  wishOf,
} from './run.ts';
export { stepName, type TuneStep, type TuneTask, tuneStep } from './steps.ts';
