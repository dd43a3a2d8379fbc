/** The FM measurement: an I/Q recording of an over in, deviation and widths out. */
import type { SampleSource } from '../formats/samples.ts';
import { Discriminator } from '../modulation/fm.ts';
import { Channel } from '../signal/channel.ts';
import { powerToDb } from '../signal/conversions.ts';
import { FftFilter } from '../signal/fftFilter.ts';
import { lowPassTaps } from '../signal/kaiser.ts';
import { LinearCounter } from '../signal/quantiles.ts';
import { bandPower, fftSizeFor, type Spectrum, SpectrumAverager } from '../signal/spectrum.ts';
import type { Hertz } from '../signal/units.ts';
import { findCtcss } from './ctcss.ts';
import { carsonHz, FULL_DEVIATION_HZ, fmWidthOf, heardReFullDb } from './fmWidth.ts';
import { eachPairBlock, type IqLevels, type IqOptions, iqBasics, recordingFindings, scanLevels } from './iq.ts';
import { db, hertz, judge, worstFirst } from './judging.ts';
import type { Finding, FmMeasurement, RadioDetail } from './measurement.ts';
import { audioAverager, audioBandwidth, offFrequency, type Stretch, stretchSpectrum, strongestBand } from './modulated.ts';
import { drawn, noiseDensity, occupiedEdges } from './radioSpectrum.ts';
import { radioDetail } from './ssb.ts';

/** A 25 kHz channel (contract). */
const CHANNEL_HALF_HZ = 12_500;
const CHANNEL_TRANSITION_HZ = 3000;
const LEAST_RATE_HZ = 40_000;
/** Audio is kept whole to 6 kHz (contract). */
const AUDIO_CORNER_HZ = 7500;
const AUDIO_TRANSITION_HZ = 3000;
/** Width in which a carrier is looked for: an ordinary narrow channel. */
const SEARCH_WIDTH_HZ = 12_000;
/** Deviation is counted in steps of half a hertz. */
const COUNTER_STEP_HZ = 0.5;
const CTCSS_BIN_HZ = 1.5;
/** Carrier over noise in the channel under which clicks pass for deviation. */
const LEAST_SNR_DB = 12;

/** @throws NotMeasurable for a single channel; the signal's reason when aborted */
export async function measureFm(
  source: SampleSource,
  options: IqOptions = {},
): Promise<{ measurement: FmMeasurement; detail: RadioDetail }> {
  const levels = await scanLevels(source, options, [0, 0.25]);
  const { basics, notes } = iqBasics(source, levels);
  const found = await stretchSpectrum(source, options, levels, [0.25, 0.5]);
  if (!found) {
    for (const key of [
      'offsetHz',
      'occupiedBandwidthHz',
      'peakDeviationHz',
      'rmsDeviationHz',
      'audioBandwidthHz',
      'carsonBandwidthHz',
      'ctcssHz',
    ]) {
      notes[key] = 'There is no transmission in it that is long enough to measure.';
    }
    const none = {
      offsetHz: null,
      occupiedBandwidthHz: null,
      peakDeviationHz: null,
      rmsDeviationHz: null,
      audioBandwidthHz: null,
      carsonBandwidthHz: null,
      ctcssHz: null,
    };
    const findings = worstFirst(recordingFindings(levels, options.limits));
    return { measurement: { kind: 'fm', ...basics, ...none, notes, findings }, detail: { mean: null, highest: null, noiseDb: null } };
  }
  const { stretch, spectrum } = found;
  const centre =
    options.carrierHz ?? (await demodulate(source, options, levels, stretch, strongestBand(spectrum, SEARCH_WIDTH_HZ), [0.5, 0.7])).meanHz;
  const heard = await demodulate(source, options, levels, stretch, centre, [0.7, 1]);
  const noise = noiseDensity(spectrum, centre, [centre - 8000, centre + 8000]);
  const peakDeviationHz = heard.deviation.percentileAround(heard.meanHz - centre, 99.9);
  const audioBandwidthHz = audioBandwidth(heard.audio, AUDIO_CORNER_HZ, notes);
  const edges = occupiedEdges(spectrum, heard.meanHz, noise ?? 0);
  if (!edges) notes.occupiedBandwidthHz = 'Nothing stands above the noise.';
  const signal = bandPower(spectrum, centre - CHANNEL_HALF_HZ, centre + CHANNEL_HALF_HZ);
  const noisePower = (noise ?? 0) * 2 * CHANNEL_HALF_HZ;
  const isWeak = noisePower > 0 && powerToDb(signal / noisePower) < LEAST_SNR_DB;
  if (isWeak) {
    for (const key of ['peakDeviationHz', 'rmsDeviationHz', 'audioBandwidthHz', 'carsonBandwidthHz']) {
      notes[key] =
        `Noise-limited: the signal stands only ${db(powerToDb(signal / noisePower))} over the noise in its channel, and clicks pass for deviation.`;
    }
  }
  if (audioBandwidthHz === null) notes.carsonBandwidthHz = 'It needs the audio bandwidth, which is not to be had.';
  const ctcssHz = heard.low && findCtcss(heard.low);
  if (ctcssHz === null) notes.ctcssHz = 'There is no steady tone under 260 Hz.';
  const measurement = {
    kind: 'fm' as const,
    ...basics,
    offsetHz: heard.meanHz,
    occupiedBandwidthHz: edges && edges[1] - edges[0],
    peakDeviationHz,
    rmsDeviationHz: heard.rmsHz,
    audioBandwidthHz,
    carsonBandwidthHz: peakDeviationHz === null || audioBandwidthHz === null ? null : carsonHz(peakDeviationHz, audioBandwidthHz),
    ctcssHz,
    notes,
  };
  return {
    measurement: { ...measurement, findings: findingsOf(measurement, levels, isWeak, options) },
    detail: { ...radioDetail(spectrum, null, noise, heard.meanHz), audio: heard.audio && drawn(heard.audio, 0, AUDIO_CORNER_HZ, 400) },
  };
}

interface Heard {
  /** Mean frequency re the file's centre. */
  readonly meanHz: Hertz;
  readonly rmsHz: Hertz;
  /** Deviation re the channel's centre. */
  readonly deviation: LinearCounter;
  readonly audio: Spectrum | null;
  /** The same in fine bins, for the sub-audible tone. */
  readonly low: Spectrum | null;
}

async function demodulate(
  source: SampleSource,
  options: IqOptions,
  { kernel, block }: IqLevels,
  { from, to }: Stretch,
  centreHz: Hertz,
  share: readonly [number, number],
): Promise<Heard> {
  const channel = new Channel(kernel, {
    sampleRateHz: source.sampleRateHz,
    centreHz,
    halfWidthHz: CHANNEL_HALF_HZ,
    transitionHz: CHANNEL_TRANSITION_HZ,
    leastRateHz: LEAST_RATE_HZ,
  });
  const rate = channel.sampleRateHz;
  const step = source.sampleRateHz / rate;
  const smooth = new FftFilter({ i: lowPassTaps(rate, Math.min(AUDIO_CORNER_HZ, 0.4 * rate), AUDIO_TRANSITION_HZ) }, kernel);
  const reach = Math.ceil(rate / 2);
  const deviation = new LinearCounter(reach, Math.round((2 * reach) / COUNTER_STEP_HZ));
  const audio = audioAverager(rate);
  const low = new SpectrumAverager({ sampleRateHz: rate, size: fftSizeFor(rate, CTCSS_BIN_HZ), averages: 1, weigh: () => [1] });
  const discriminator = new Discriminator(rate);
  let at = 0;
  let sum = 0;
  let squares = 0;
  let count = 0;
  // Where the filter looks beyond the stretch's ends is no modulation.
  let skip = smooth.reach;
  const hear = (filtered: Float64Array) => {
    const heard = filtered.subarray(Math.min(skip, filtered.length));
    skip = Math.max(0, skip - filtered.length);
    deviation.push(heard);
    audio.push(heard);
    low.push(heard);
    for (const x of heard) {
      sum += x;
      squares += x * x;
    }
    count += heard.length;
  };
  await eachPairBlock(source, block, options, share, () => {
    const { i, q } = channel.push(block);
    const [a, b] = [Math.max(0, Math.ceil(from / step) - at), Math.min(i.length, Math.floor(to / step) - at)];
    at += i.length;
    if (b <= a) return;
    hear(smooth.push(discriminator.push({ i: i.subarray(a, b), q: q.subarray(a, b) })).i);
  });
  const rest = smooth.end().i;
  hear(rest.subarray(0, Math.max(0, rest.length - smooth.reach)));
  const mean = count === 0 ? 0 : sum / count;
  return {
    meanHz: centreHz + mean,
    rmsHz: count === 0 ? 0 : Math.sqrt(Math.max(0, squares / count - mean * mean)),
    deviation,
    audio: audio.result()[0],
    low: low.result()[0],
  };
}

function findingsOf(
  numbers: Omit<FmMeasurement, 'findings'>,
  levels: IqLevels,
  isWeak: boolean,
  { carrierHz, limits: own }: IqOptions,
): Finding[] {
  const peak = isWeak ? null : numbers.peakDeviationHz;
  const width = fmWidthOf(peak ?? 0);
  return worstFirst([
    ...recordingFindings(levels, own),
    judge('narrowDeviation', peak, own, {
      code: 'narrow-deviation',
      text: `Narrow deviation: in a wide channel this will be reported as low power, with clean quality. If the channel is wide, set the radio to wide (radios fall back to narrow by themselves) or raise the mic gain.`,
      evidence: `peak deviation ${hertz(peak ?? 0)}, ${width}; ${db(heardReFullDb(peak ?? 1, 'wide'))} against a full signal in a wide receiver`,
      most: (peak ?? 0) < FULL_DEVIATION_HZ.narrow / 2 ? 'fault' : 'watch',
    }),
    judge('overDeviation', peak, own, {
      code: 'over-deviation',
      text: 'Over-deviated: it distorts in receivers and reaches into the next channel. Lower the mic gain or speak further away.',
      evidence: `peak deviation ${hertz(peak ?? 0)}`,
    }),
    offFrequency(carrierHz, numbers.offsetHz, own),
    isWeak
      ? {
          code: 'noise-limited',
          severity: 'watch',
          text: 'The signal is too weak in this recording to judge its deviation.',
          evidence: numbers.notes.peakDeviationHz,
        }
      : null,
  ]);
}
