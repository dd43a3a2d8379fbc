/** Signal processing: filters, spectra, meters, statistics. What the other folders may use. */

export {
  addResponseDb,
  type Biquad,
  BiquadChain,
  cascadeDb,
  halfSines,
  highPass,
  highShelf,
  inverseBiquad,
  lowPass,
  lowShelf,
  notch,
  peaking,
  responseDb,
} from './filter/biquad.ts';
export { Decimator, DownConverter } from './filter/downConverter.ts';
export { FftFilter } from './filter/fftFilter.ts';
export { bandPassTaps } from './filter/fir.ts';
export { Halver } from './filter/halver.ts';
export { curveTaps, lowPassTaps, oneSidedTaps } from './filter/kaiser.ts';
export { PairFilter } from './filter/pairFilter.ts';
export { atRate, resampled } from './filter/resample.ts';
export { resampleStream } from './filter/resampleStream.ts';
export { floatsAt, Intake, Room, type SamplesAt } from './filter/samplesAt.ts';
export { ThreeSections } from './filter/threeSections.ts';
export { Tuner } from './filter/tuner.ts';
export { createKernel, Kernel, type KernelArray } from './kernel/kernel.ts';
export { MomentSums, type Moments } from './kernel/moments.ts';
export { PairBlock } from './kernel/pairBlock.ts';
export { type PieceAt, Pieces } from './kernel/pieces.ts';
export { ActiveSpeechMeter, SpeechCounter } from './meter/activeSpeechLevel.ts';
export { ClippingMeter, clippedShare, FlatTopMeter, type FullScale } from './meter/clipping.ts';
export { ACTIVE_RANGE_DB, FRAME_SECONDS, FrameLevels } from './meter/frameMeter.ts';
export { LoudnessMeter } from './meter/loudness.ts';
export { LEAST_VOICED_SHARE, LowBand, PitchFinder } from './meter/pitch.ts';
export { FrameTotals, STEP_HIGHEST, STEP_LOWEST, STEP_VALUES, StepReader, stepsAt } from './meter/steps.ts';
export { analytic } from './signals/analytic.ts';
export { growthSeconds } from './signals/sweep.ts';
export {
  closingMarker,
  openingMarker,
  RESPONSE_SIGNAL,
  responseSweep,
  responseSweepSamples,
  responseTimes,
  TEST_SIGNALS,
  type TestSignal,
  type TestSignalShape,
  testSignal,
} from './signals/testSignals.ts';
export {
  bandPowers,
  exactCentre,
  slidingThirdOctaves,
  TWELFTH_CENTRES,
  VOICE_THIRD_OCTAVES,
  VOICE_TWELFTH_OCTAVES,
} from './spectrum/bands.ts';
export { type Spectrogram, SpectrogramBuilder } from './spectrum/spectrogram.ts';
export { bandPower, fftSizeFor, highestHz, nextPowerOfTwo, type Spectrum, SpectrumAverager } from './spectrum/spectrum.ts';
export { createSpectrumEngine, type SpectrumEngine, type SpectrumEngineInKernel, spectrumEngineIn } from './spectrum/spectrumEngine.ts';
export { SteadySpectra } from './spectrum/steadySpectra.ts';
export { binPower, type StftShape, stft, stftCount } from './spectrum/stft.ts';
export { forwardTransform, inverseTransform, timesConjugate, type WholeSpectrum } from './spectrum/transform.ts';
export { hann, hannPower } from './spectrum/window.ts';
export { solveSymmetric } from './statistics/linear.ts';
export { atPercent, LinearCounter } from './statistics/quantiles.ts';
export { gaussian, type Random, seededRandom } from './statistics/random.ts';
export {
  binomialTail,
  mean,
  median,
  percentile,
  percentileOf,
  rising,
  slope,
  standardDeviation,
  sum,
  weightedMean,
} from './statistics/statistics.ts';
export { type Complex, shifted } from './stream/complex.ts';
export { joined } from './stream/joined.ts';
export { type AudioStage, inRow, instantAudio, instantRadio, joinedRadio, type RadioStage, type Stage } from './stream/stage.ts';
