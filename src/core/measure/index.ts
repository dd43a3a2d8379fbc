/** Recordings to numbers. What the other folders may use. */

export { guessKind } from './guessKind.ts';
export { headline } from './headline.ts';
export { KIND_NAMES, KIND_NOTES, radioKindOf } from './kinds.ts';
export { LIVE_HZ, LiveMeter, type LiveReading } from './live.ts';
export {
  type AmMeasurement,
  CORE_VERSION,
  type FmMeasurement,
  MEASUREMENT_KINDS,
  type Measurement,
  type MeasurementDetail,
  type MeasurementKind,
  type PowerDetail,
  type PowerMeasurement,
  RADIO_KINDS,
  type RadioDetail,
  type ResponseMeasurement,
  type SsbMeasurement,
  type TwoToneMeasurement,
  type VoiceDetail,
  type VoiceMeasurement,
} from './measurement.ts';
export { type MeasureSettings, measureFile, measureRecording } from './measureRecording.ts';
export { peakAndMean } from './peakAndMean.ts';
export {
  exampleLimit,
  type Harmonic,
  judgeHarmonics,
  padFor,
  pepOfVolts,
  powerBeforePad,
  USUAL_LOAD_OHMS,
  type VoltsKind,
  wattsToDbm,
} from './power/power.ts';
export { carsonHz, type FmWidth, FULL_DEVIATION_HZ, fmWidthOf, heardReFullDb } from './radio/fmWidth.ts';
export { iqKernel, NotMeasurable } from './radio/iq.ts';
export type { DrawnSpectrum } from './radio/radioSpectrum.ts';
export { isOffTheAir, RECEIVER_KINDS, type ReceiverKind, receiverKindText } from './receiverKinds.ts';
export { compareResponses, micOrRadio } from './response/compareResponses.ts';
export { CURVE_FREQUENCIES } from './response/deconvolve.ts';
export { sameDrive } from './sameDrive.ts';
export { toneAgainst } from './toneAgainst.ts';
export { measureVoice } from './voice/voice.ts';
