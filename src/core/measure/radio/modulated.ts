/** What AM and FM measurements share: finding the carrier, and the demodulated audio's spectrum. */
import { fftSizeFor, highestHz, type Spectrum, SpectrumAverager } from '../../dsp/index.ts';
import type { SampleSource } from '../../files/index.ts';
import { type Finding, judge, type OwnLimits } from '../../findings/index.ts';
import { type Decibels, type Fraction, type Hertz, hertz, powerToDb } from '../../units/index.ts';
import type { Notes } from '../measurement.ts';
import { bandParts, eachPairBlock, type IqLevels, type IqOptions, noiseInBand, WIDEST_RADIO_BIN_HZ } from './iq.ts';
import { KeyedSpectrum } from './keyedSpectrum.ts';
import { keyedTransmissions, pausePower, type SignalBand, type Transmission, weighKeyed } from './keying.ts';

/** Audio counts as far as it is within this of its strongest part (contract). */
const AUDIO_RANGE_DB: Decibels = 20;
/** Below this a mean taken off imperfectly would pass for audio. */
const LOWEST_AUDIO_HZ = 20;

/** A signal with a carrier, found in a recording. */
export interface Found {
  /** When it was keyed. */
  readonly transmissions: readonly Transmission[];
  /** Its band, about where the carrier roughly is. */
  readonly band: SignalBand;
  /** Averaged and highest spectrum of the whole file over these transmissions. */
  readonly spectrum: Spectrum;
  /** Noise in 1 Hz about the carrier: from beside the signal, or from its pauses; null where neither is there. */
  readonly noiseDensity: number | null;
}

/** Finds when a signal was keyed, and its spectrum then. @param band where the carrier is, told from the file's map */
export async function findKeyed(
  source: SampleSource,
  options: IqOptions,
  levels: IqLevels,
  band: (map: Spectrum) => SignalBand,
  [start, end]: readonly [Fraction, Fraction],
): Promise<Found | null> {
  if (!levels.map) return null;
  const rate = source.sampleRateHz;
  const found = band(levels.map.highest);
  const noise = noiseInBand(levels.map.mean, found);
  const middle = (start + end) / 2;
  const parts = await bandParts(source, options, levels, found, [start, middle]);
  const transmissions = keyedTransmissions(parts, rate, noise);
  const keyed = new KeyedSpectrum(levels.kernel, rate, transmissions, found.centreHz);
  await eachPairBlock(source, levels.block, options, [middle, end], () => keyed.push(levels.block));
  const spectrum = keyed.result();
  const pauses = pausePower(parts, transmissions, rate);
  const inBand = noise ?? pauses;
  return (
    spectrum && {
      transmissions,
      band: found,
      spectrum,
      noiseDensity: inBand === null ? null : inBand / Math.min(2 * found.halfWidthHz, rate),
    }
  );
}

/** Middle of the `widthHz` that holds the most power. */
export function strongestBand(spectrum: Spectrum, widthHz: Hertz): Hertz {
  const { firstHz, binHz, density } = spectrum;
  const half = Math.min(widthHz, highestHz(spectrum) - firstHz) / 2;
  const sums = new Float64Array(density.length + 1);
  for (let k = 0; k < density.length; k++) sums[k + 1] = sums[k] + density[k];
  // Bin k reaches from k - 1/2 to k + 1/2.
  const below = (hz: Hertz): number => {
    const at = Math.min(density.length, Math.max(0, (hz - firstHz) / binHz + 0.5));
    const whole = Math.floor(at);
    return whole === at ? sums[whole] : sums[whole] + (at - whole) * density[whole];
  };
  let best = { hz: 0, power: -1 };
  for (let hz = firstHz + half; hz <= highestHz(spectrum) - half; hz += Math.max(binHz, half / 8)) {
    const power = below(hz + half) - below(hz - half);
    if (power > best.power) best = { hz, power };
  }
  return best.hz;
}

/** A stated carrier is looked for within this distance. */
const STATED_REACH_HZ = 3000;

/** Frequency of the strongest line, between bins by a parabola through the levels of three. @param nearHz look near this only */
export function strongestLine({ firstHz, binHz, density }: Spectrum, nearHz?: Hertz): Hertz {
  const hzOf = (k: number) => firstHz + k * binHz;
  const inReach = [...density.keys()].filter((k) => nearHz === undefined || Math.abs(hzOf(k) - nearHz) <= STATED_REACH_HZ);
  if (inReach.length === 0) return nearHz ?? 0;
  const top = inReach.reduce((best, k) => (density[k] > density[best] ? k : best));
  const level = (k: number) => powerToDb(Math.max(density[Math.min(density.length - 1, Math.max(0, k))], Number.MIN_VALUE));
  const [a, b, c] = [level(top - 1), level(top), level(top + 1)];
  const curve = a - 2 * b + c;
  return hzOf(top + (curve < 0 ? (a - c) / (2 * curve) : 0));
}

/** A carrier away from where it was said to be. Without a stated one nobody is accused. */
export function offFrequency(statedHz: Hertz | undefined, foundHz: Hertz | null, own?: OwnLimits): Finding | null {
  if (statedHz === undefined || foundHz === null) return null;
  const distance = foundHz - statedHz;
  return judge('offFrequency', Math.abs(distance), own, {
    code: 'off-frequency',
    text: `The carrier is ${distance > 0 ? 'above' : 'below'} where it was said to be. The receiver’s own reference may be off as well.`,
    evidence: `${hertz(Math.abs(distance))} away`,
  });
}

/** Averages the spectrum of demodulated audio over the keyed transmissions. @param step samples of the recording to one of the audio */
export const audioAverager = (sampleRateHz: Hertz, transmissions: readonly Transmission[], step: number, binHz = WIDEST_RADIO_BIN_HZ) =>
  new SpectrumAverager({ sampleRateHz, size: fftSizeFor(sampleRateHz, binHz), averages: 1, weigh: weighKeyed(transmissions, step) });

/** Largest of Gaussian noise among so many independent values, in standard deviations (the usual asymptote, sqrt(2 ln n)). */
export const gaussianPeak = (independent: number): number => Math.sqrt(2 * Math.log(Math.max(2, independent)));

/** Where noise alone reaches this share of a peak, the peak is an upper bound (contract). */
export const MOST_NOISE_IN_PEAK: Fraction = 1 / 20;

/** Length of all transmissions together. */
export const secondsOf = (transmissions: readonly Transmission[], sampleRateHz: Hertz): number =>
  transmissions.reduce((sum, { from, to }) => sum + (to - from), 0) / sampleRateHz;

/** Highest frequency within 20 dB of the strongest; null with its note where there is no audio. */
export function audioBandwidth(audio: Spectrum | null, highestAudioHz: Hertz, notes: Notes): Hertz | null {
  const inside = audio
    ? [...audio.density.keys()].filter((k) => k * audio.binHz >= LOWEST_AUDIO_HZ && k * audio.binHz <= highestAudioHz)
    : [];
  const density = (k: number) => audio?.density[k] ?? 0;
  const strongest = inside.reduce((most, k) => Math.max(most, density(k)), 0);
  if (!audio || strongest === 0) {
    notes.audioBandwidthHz = 'There is no modulation.';
    return null;
  }
  const last = inside.filter((k) => powerToDb(density(k) / strongest) >= -AUDIO_RANGE_DB).at(-1) ?? 0;
  return last * audio.binHz;
}
