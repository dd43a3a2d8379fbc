/** The FM measurement: an I/Q recording of an over in, deviation and widths out. */
import {
  BiquadChain,
  bandPower,
  DownConverter,
  FftFilter,
  LinearCounter,
  lowPassTaps,
  notch as notchAt,
  type Spectrum,
} from '../../dsp/index.ts';
import type { SampleSource } from '../../files/index.ts';
import { type Finding, judge, receiverFirst, worstFirst } from '../../findings/index.ts';
import { PairDiscriminator } from '../../modem/index.ts';
import { type Decibels, decibels, type Hertz, hertz, powerToDb } from '../../units/index.ts';
import type { FmMeasurement, RadioDetail } from '../measurement.ts';
import { findCtcss } from './ctcss.ts';
import { carsonHz, type FmWidth, fmWidthOf, heardReFullDb } from './fmWidth.ts';
import { eachPairBlock, type IqLevels, type IqOptions, iqBasics, recordingFindings, scanLevels } from './iq.ts';
import { eachKeyed, type SignalBand, type Transmission } from './keying.ts';
import {
  audioAverager,
  audioBandwidth,
  findKeyed,
  gaussianPeak,
  MOST_NOISE_IN_PEAK,
  offFrequency,
  secondsOf,
  strongestBand,
} from './modulated.ts';
import { drawn, noiseDensity, occupiedEdges } from './radioSpectrum.ts';
import { radioDetail } from './ssb.ts';

/** A 25 kHz channel (contract). */
const CHANNEL_HALF_HZ = 12_500;
const CHANNEL_TRANSITION_HZ = 3000;
const LEAST_RATE_HZ = 40_000;
/** Audio is kept whole to 6 kHz (contract). */
const AUDIO_CORNER_HZ = 7500;
const AUDIO_TRANSITION_HZ = 3000;
/** A channel that stands so much off its signal, a hundredth of its width, is as good as one about it. */
const NEAR_HZ = 250;
/** Width in which a carrier is looked for: an ordinary narrow channel. */
const SEARCH_WIDTH_HZ = 12_000;
/** Deviation is counted in steps of half a hertz. */
const COUNTER_STEP_HZ = 0.5;
const CTCSS_BIN_HZ = 1.5;
/** Carrier over noise in the channel under which clicks pass for deviation. */
const LEAST_SNR_DB = 12;
/** Two notches of this Q take the sub-audible tone out, a little off its frequency too; what they need to settle is left out of the voice's deviation. */
const NOTCH_Q = 8;
const NOTCH_SETTLES_S = 0.25;

const KEYS = [
  'offsetHz',
  'occupiedBandwidthHz',
  'peakDeviationHz',
  'peakDeviationUsualHz',
  'voicePeakDeviationHz',
  'rmsDeviationHz',
  'audioBandwidthHz',
  'carsonBandwidthHz',
  'ctcssHz',
] as const;

/** @throws NotMeasurable for a single channel; the signal's reason when aborted */
export async function measureFm(
  source: SampleSource,
  options: IqOptions = {},
): Promise<{ measurement: FmMeasurement; detail: RadioDetail }> {
  const levels = await scanLevels(source, options, [0, 0.2]);
  const { basics, notes } = iqBasics(source, levels);
  const bandOf = (map: Spectrum): SignalBand => ({
    centreHz: options.carrierHz ?? strongestBand(map, SEARCH_WIDTH_HZ),
    halfWidthHz: CHANNEL_HALF_HZ,
  });
  const found = await findKeyed(source, options, levels, bandOf, [0.2, 0.5]);
  if (!found) {
    for (const key of KEYS) notes[key] = 'There is no transmission in it that is long enough to measure.';
    const none = Object.fromEntries(KEYS.map((key) => [key, null])) as Record<(typeof KEYS)[number], null>;
    const findings = worstFirst(recordingFindings(levels, options.limits));
    return { measurement: { kind: 'fm', ...basics, ...none, notes, findings }, detail: { mean: null, highest: null, noiseDb: null } };
  }
  const { transmissions, spectrum, band } = found;
  const demodulateAt = (centreHz: Hertz, ctcssHz: Hertz | null, share: readonly [number, number], isFirst = false) =>
    demodulate(source, options, levels, transmissions, { centreHz, ctcssHz, isFirst }, share);
  const start = options.carrierHz ?? middleOf(spectrum, band, found.noiseDensity ?? 0);
  const first = await demodulateAt(start, null, [0.5, 0.7], true);
  const isNear = options.carrierHz !== undefined || Math.abs(first.meanHz - start) < NEAR_HZ;
  const centre = isNear ? start : first.meanHz;
  const tone = first.low && findCtcss(first.low);
  const heard = isNear && !tone ? first : await demodulateAt(centre, tone?.hz ?? null, [0.7, 1]);
  options.onProgress?.(1);
  const density = noiseDensity(spectrum, centre, [centre - 8000, centre + 8000]) ?? found.noiseDensity;
  const seconds = secondsOf(transmissions, source.sampleRateHz);
  const noisePeakHz = noiseDeviation(spectrum, centre, density ?? 0) * gaussianPeak(2 * AUDIO_CORNER_HZ * seconds);
  const audioBandwidthHz = audioBandwidth(heard.audio, AUDIO_CORNER_HZ, notes);
  const edges = occupiedEdges(spectrum, heard.meanHz, density ?? 0);
  if (!edges) notes.occupiedBandwidthHz = 'Nothing stands above the noise.';
  const overNoise = carrierOverNoiseDb(spectrum, centre, density ?? 0);
  const isWeak = overNoise < LEAST_SNR_DB;
  const bound = isWeak
    ? `Noise-limited: the signal stands only ${decibels(overNoise)} over the noise in its channel, and clicks pass for deviation.`
    : noisePeakHz > MOST_NOISE_IN_PEAK * heard.peakHz
      ? `Noise-limited: an upper bound, noise alone reaches ${hertz(noisePeakHz)}.`
      : null;
  if (bound) for (const key of ['peakDeviationHz', 'voicePeakDeviationHz', 'carsonBandwidthHz']) notes[key] = bound;
  if (isWeak) for (const key of ['peakDeviationUsualHz', 'rmsDeviationHz', 'audioBandwidthHz']) notes[key] = bound ?? '';
  if (audioBandwidthHz === null) notes.carsonBandwidthHz = 'It needs the audio bandwidth, which is not measurable here.';
  if (!tone) notes.ctcssHz = 'There is no steady tone under 260 Hz.';
  const measurement = {
    kind: 'fm' as const,
    ...basics,
    offsetHz: heard.meanHz,
    occupiedBandwidthHz: edges && edges[1] - edges[0],
    peakDeviationHz: heard.peakHz,
    peakDeviationUsualHz: heard.deviation.percentileAround(heard.meanHz - centre, 99.9),
    voicePeakDeviationHz: tone ? heard.voicePeakHz : heard.peakHz,
    rmsDeviationHz: heard.rmsHz,
    audioBandwidthHz,
    carsonBandwidthHz: audioBandwidthHz === null ? null : carsonHz(heard.peakHz, audioBandwidthHz),
    ctcssHz: tone?.nominalHz ?? null,
    notes,
  };
  if (tone && heard.voicePeakHz === null) notes.voicePeakDeviationHz = 'The transmission is too short to take the sub-audible tone out.';
  return {
    measurement: { ...measurement, findings: findingsOf(measurement, { levels, isWeak, noisePeakHz }, options) },
    detail: { ...radioDetail(spectrum, null, density, heard.meanHz), audio: heard.audio && drawn(heard.audio, 0, AUDIO_CORNER_HZ, 400) },
  };
}

/** Where the middle of the power in a band stands, the noise taken off: FM's mean frequency. */
function middleOf({ firstHz, binHz, density }: Spectrum, { centreHz, halfWidthHz }: SignalBand, noise: number): Hertz {
  let power = 0;
  let moment = 0;
  for (let k = 0; k < density.length; k++) {
    const offset = firstHz + k * binHz - centreHz;
    if (Math.abs(offset) > halfWidthHz) continue;
    power += density[k] - noise;
    moment += (density[k] - noise) * offset;
  }
  return power > 0 ? centreHz + Math.max(-halfWidthHz, Math.min(halfWidthHz, moment / power)) : centreHz;
}

function carrierOverNoiseDb(spectrum: Spectrum, centre: Hertz, density: number): Decibels {
  const noise = density * 2 * CHANNEL_HALF_HZ;
  const signal = bandPower(spectrum, centre - CHANNEL_HALF_HZ, centre + CHANNEL_HALF_HZ) - noise;
  return noise > 0 ? powerToDb(Math.max(signal, Number.MIN_VALUE) / noise) : Infinity;
}

/**
 * RMS deviation that noise alone makes behind the audio filter: of noise of density N beside a carrier of power C the
 * discriminator makes a density of f^2 N / 2C on each side, so N W^3 / 3C up to W (the parabolic noise of FM, handbooks).
 */
function noiseDeviation(spectrum: Spectrum, centre: Hertz, density: number): Hertz {
  const carrier = bandPower(spectrum, centre - CHANNEL_HALF_HZ, centre + CHANNEL_HALF_HZ) - density * 2 * CHANNEL_HALF_HZ;
  return carrier > 0 ? Math.sqrt((density * AUDIO_CORNER_HZ ** 3) / 3 / carrier) : CHANNEL_HALF_HZ;
}

interface Heard {
  /** Mean frequency re the file's centre. */
  readonly meanHz: Hertz;
  readonly rmsHz: Hertz;
  /** Largest distance from the mean. */
  readonly peakHz: Hertz;
  /** The same without the sub-audible tone; null when no tone was named, or too little is left. */
  readonly voicePeakHz: Hertz | null;
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
  transmissions: readonly Transmission[],
  { centreHz, ctcssHz, isFirst }: { centreHz: Hertz; ctcssHz: Hertz | null; isFirst: boolean },
  share: readonly [number, number],
): Promise<Heard> {
  const channel = new DownConverter(kernel, {
    sampleRateHz: source.sampleRateHz,
    centreHz,
    halfWidthHz: CHANNEL_HALF_HZ,
    transitionHz: CHANNEL_TRANSITION_HZ,
    leastRateHz: LEAST_RATE_HZ,
    isByBlocks: true,
  });
  const rate = channel.sampleRateHz;
  const step = source.sampleRateHz / rate;
  const smooth = new FftFilter({ i: lowPassTaps(rate, Math.min(AUDIO_CORNER_HZ, 0.4 * rate), AUDIO_TRANSITION_HZ) }, kernel);
  const reach = Math.ceil(rate / 2);
  const deviation = new LinearCounter(reach, Math.round((2 * reach) / COUNTER_STEP_HZ));
  const audio = audioAverager(rate, transmissions, step);
  // A tone is looked for once.
  const low = isFirst ? audioAverager(rate, transmissions, step, CTCSS_BIN_HZ) : null;
  const discriminator = new PairDiscriminator(kernel, rate, channel.offsetHz);
  const notch = ctcssHz === null ? null : new BiquadChain([notchAt(rate, ctcssHz, NOTCH_Q), notchAt(rate, ctcssHz, NOTCH_Q)]);
  const settles = NOTCH_SETTLES_S * rate;
  const whole = new Swing();
  const voice = new Swing();
  let at = 0;
  const hear = (filtered: Float64Array) => {
    audio.push(filtered);
    low?.push(filtered);
    const first = at;
    at += filtered.length;
    eachKeyed(transmissions, step, first, filtered.length, (from, to, transmission) => {
      const heard = filtered.subarray(from, to);
      deviation.push(heard);
      whole.push(heard);
      if (!notch) return;
      const settled = Math.ceil(transmission.from / step + settles) - (first + from);
      // A transmission begins with what the notch has not seen: noise of the pause is let run out before anything counts.
      voice.push(notch.process(heard.slice()).subarray(Math.max(0, Math.min(settled, heard.length))));
    });
  };
  await eachPairBlock(source, block, options, share, () => hear(smooth.push(discriminator.push(channel.turning(block))).i));
  hear(smooth.push(discriminator.push(channel.turningEnd())).i);
  hear(smooth.end().i);
  const { mean } = whole;
  return {
    meanHz: centreHz + mean,
    rmsHz: whole.rms,
    peakHz: whole.farthestFrom(mean) ?? 0,
    voicePeakHz: notch && voice.farthestFrom(mean),
    deviation,
    audio: audio.result()[0],
    low: low?.result()[0] ?? null,
  };
}

/** How far a stream swings. */
class Swing {
  #highest = -Infinity;
  #lowest = Infinity;
  #sum = 0;
  #squares = 0;
  #count = 0;

  push(values: Float64Array): void {
    let highest = this.#highest;
    let lowest = this.#lowest;
    let sum = 0;
    let squares = 0;
    for (let n = 0; n < values.length; n++) {
      const value = values[n];
      if (value > highest) highest = value;
      if (value < lowest) lowest = value;
      sum += value;
      squares += value * value;
    }
    this.#highest = highest;
    this.#lowest = lowest;
    this.#sum += sum;
    this.#squares += squares;
    this.#count += values.length;
  }

  get mean(): number {
    return this.#count === 0 ? 0 : this.#sum / this.#count;
  }

  /** About the mean. */
  get rms(): number {
    return this.#count === 0 ? 0 : Math.sqrt(Math.max(0, this.#squares / this.#count - this.mean ** 2));
  }

  /** Largest distance from a value; null of nothing. */
  farthestFrom(value: number): number | null {
    return this.#count === 0 ? null : Math.max(this.#highest - value, value - this.#lowest);
  }
}

/** A carrier that swings so far about the centre of the file and rests so near to it is no constant offset of the receiver. */
const LEAST_SWING_HZ = 500;
const NEAR_CENTRE_HZ = 25;

interface Evidence {
  readonly levels: IqLevels;
  readonly isWeak: boolean;
  /** Deviation that noise alone reaches. */
  readonly noisePeakHz: Hertz;
}

function findingsOf(
  numbers: Omit<FmMeasurement, 'findings'>,
  { levels, isWeak, noisePeakHz }: Evidence,
  { carrierHz, limits: own }: IqOptions,
): Finding[] {
  const peak = isWeak ? null : numbers.peakDeviationHz;
  // A bounded peak accuses nobody: what noise can have added is taken off first, and nothing is said where that is most of it.
  const least = peak === null || noisePeakHz > peak / 2 ? null : peak - (numbers.notes.peakDeviationHz ? noisePeakHz : 0);
  const width = fmWidthOf(peak ?? 0);
  const isCentred = peak !== null && peak >= LEAST_SWING_HZ && Math.abs(numbers.offsetHz ?? Infinity) < NEAR_CENTRE_HZ;
  return receiverFirst([
    ...recordingFindings(levels, own, isCentred),
    judge('narrowDeviation', peak, own, {
      code: 'narrow-deviation',
      text: 'Low deviation, even for a narrow channel: this is heard as weak audio. Raise the mic gain or speak closer.',
      evidence: `peak deviation ${hertz(peak ?? 0)}, ${decibels(heardReFullDb(peak ?? 1, 'narrow'))} re a full signal in a narrow receiver, ${decibels(heardReFullDb(peak ?? 1, 'wide'))} in a wide one`,
    }) ?? narrowInWide(peak, width),
    judge('overDeviation', least, own, {
      code: 'over-deviation',
      text: 'Over-deviated: it distorts in receivers and reaches into the next channel. Lower the mic gain or speak further away.',
      evidence: `peak deviation ${hertz(peak ?? 0)}${least !== peak ? `, of which noise may be ${hertz(noisePeakHz)}` : ''}`,
    }),
    offFrequency(carrierHz, numbers.offsetHz, own),
    isWeak
      ? {
          code: 'noise-limited',
          severity: 'ok',
          text: 'The signal is too weak in this recording to judge its deviation.',
          evidence: numbers.notes.peakDeviationHz,
        }
      : null,
  ]);
}

/** A sound narrow signal: no fault, but worth knowing where the channel is wide. */
function narrowInWide(peak: Hertz | null, width: FmWidth): Finding | null {
  if (peak === null || width !== 'narrow') return null;
  return {
    code: 'narrow-deviation',
    severity: 'ok',
    text: 'A narrow signal. In a wide channel it will be reported as low power, with clean quality: if the channel is wide, set the radio to wide (radios fall back to narrow by themselves).',
    evidence: `peak deviation ${hertz(peak)}; ${decibels(heardReFullDb(peak, 'wide'))} against a full signal in a wide receiver`,
  };
}
