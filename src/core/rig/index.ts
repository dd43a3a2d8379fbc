/** Rigs, microphones and cards: what the dials are, and what they do together. What the other folders may use. */

export { asRead, fullScale, hasAlc, ofScale, readingText, zoneText } from './alc.ts';
export { alcError, alcLabel, parseAlc, parseReading } from './alcReading.ts';
export {
  type Card,
  type CardFile,
  type DialValues,
  factoryCard,
  MODE_LABELS,
  PURPOSE_LABELS,
  PURPOSES,
  type Purpose,
  valueOn,
  valuesSchema,
} from './card.ts';
export { dialIdFor, parseDialRows } from './dialRows.ts';
export {
  compareMenu,
  isOnScale,
  isTurnedOff,
  nearestOn,
  parseDialText,
  positionsOf,
  rangeText,
  restOf,
  shareOf,
  stepFrom,
} from './dialScale.ts';
export { carrierShiftHz, type DialState, type EffectiveSettings, effective, hertzOf, nameOf, passbandOf } from './effective.ts';
export {
  bandCentre,
  bandFilter,
  bandsResponseDb,
  clickOf,
  type EqualizerBand,
  equalizerBands,
  equalizerText,
  MODEL_RATE_HZ,
  widthInOctaves,
} from './equalizer.ts';
export { GUEST_SHAPE_LABELS, GUEST_SHAPES, type GuestRadio, type GuestShape, guestRig, parseFrequencies } from './guestRig.ts';
export { withMeasuredEdges } from './measuredEdges.ts';
export {
  fittingUse,
  isSameUse,
  type Microphone,
  type MicrophoneUse,
  microphoneUseSchema,
  microphoneUseText,
  OUTPUT_LEVELS,
  PATTERN_LABELS,
  PATTERNS,
  type Pattern,
  usualUse,
} from './microphone.ts';
export { MISTAKE_LABELS, type Mistake, mistakesOn } from './mistakes.ts';
export { enableEqualizer, responseOf, valuesOf } from './response.ts';
export {
  canCarry,
  DIAL_ROLES,
  DIAL_STAGES,
  type Dial,
  type DialRole,
  type DialValue,
  dialInRole,
  dialOf,
  type Equalizer,
  MODES,
  type Mode,
  type RigProfile,
} from './rig.ts';
export { parseScaleText, ScaleProblem, scaleText } from './scaleText.ts';
export { equalizerOf, MOST_BANDS, SHAPE_LABELS, SHAPES, type Shape, startRig, USUAL_DIALS } from './shapes.ts';
export { everyDial, type SheetLine, sheet, valueText } from './sheet.ts';
export { type SoundChange, soundChange } from './sound.ts';
export { STAGE_NAMES, STAGES, type StageKey } from './stages.ts';
export { parseCard, parseMicrophone, parseRig, problemsOfRig } from './validate.ts';
export { HOW_TO_FIND_OUT, hasUnknownWidth, widthReadings, widthSentence } from './widthReadings.ts';
