/** The two-tone measurement: an I/Q recording of two steady tones in, intermodulation out. */
import { bandPower, fftSizeFor, highestHz, type Spectrum, SpectrumAverager } from '../../dsp/index.ts';
import type { SampleSource } from '../../files/index.ts';
import { type Finding, judge, type OwnLimits, receiverFirst } from '../../findings/index.ts';
import { type Decibels, decibels, type Fraction, type Hertz, hertz, type Power, powerToDb } from '../../units/index.ts';
import type { Notes, RadioDetail, TwoToneMeasurement } from '../measurement.ts';
import { eachPairBlock, type IqLevels, type IqOptions, iqBasics, recordingFindings, scanLevels, WIDEST_RADIO_BIN_HZ } from './iq.ts';
import { strongestLine } from './modulated.ts';
import { noiseDensity } from './radioSpectrum.ts';
import { type Hiding, noteNoise, radioDetail, roundingPower } from './ssb.ts';

/** A line's power lies within this many bins of it (Hann window, some unsteadiness). */
const LINE_BINS = 4;
/** Tones closer than their lines are wide can't be told apart. */
const LEAST_SPACING_BINS = 3 * LINE_BINS;
const FARTHEST_TONE_HZ = 6000;
/** The second tone may be this much weaker. */
const MOST_UNEQUAL_DB: Decibels = 20;
/** Mean power of two equal tones to their PEP (handbook: PEP is twice the mean, four times one tone). */
const TONE_TO_PEP_DB = 6.02;

/** @throws NotMeasurable for a single channel; the signal's reason when aborted */
export async function measureTwoTone(
  source: SampleSource,
  options: IqOptions = {},
): Promise<{ measurement: TwoToneMeasurement; detail: RadioDetail }> {
  const levels = await scanLevels(source, options, [0, 0.4]);
  const spectrum = await steadySpectrum(source, options, levels);
  const { basics, notes } = iqBasics(source, levels);
  const tones = spectrum && findTones(spectrum, options.carrierHz, notes);
  if (!spectrum) notes.tonesHz = 'There is no transmission in it that is long enough to measure.';
  const middle = tones ? (tones[0] + tones[1]) / 2 : 0;
  const reach = tones ? 4 * (tones[1] - tones[0]) : 0;
  const noise = spectrum && tones ? noiseDensity(spectrum, middle, [middle - reach, middle + reach]) : null;
  const products =
    spectrum && tones
      ? productsOf(spectrum, tones, { noise, rounding: roundingPower(source.codeStep) }, notes)
      : { imd3Db: null, imd5Db: null };
  const rePep = (level: Decibels | null) => (level === null ? null : level - TONE_TO_PEP_DB);
  for (const key of ['imd3Db', 'imd5Db'] as const) {
    if (!tones) notes[key] = notes.tonesHz;
    if (notes[key]) notes[key.replace('Db', 'PepDb')] = notes[key];
  }
  const measurement = {
    kind: 'two-tone' as const,
    ...basics,
    tonesHz: tones,
    ...products,
    imd3PepDb: rePep(products.imd3Db),
    imd5PepDb: rePep(products.imd5Db),
    notes,
  };
  const findings = receiverFirst([...recordingFindings(levels, options.limits), ...findingsOf(measurement, options.limits)]);
  return { measurement: { ...measurement, findings }, detail: radioDetail(spectrum, null, noise, middle) };
}

async function steadySpectrum(source: SampleSource, options: IqOptions, levels: IqLevels): Promise<Spectrum | null> {
  const rate = source.sampleRateHz;
  const averager = new SpectrumAverager({
    sampleRateHz: rate,
    size: fftSizeFor(rate, WIDEST_RADIO_BIN_HZ / 4),
    averages: 1,
    // Keying edges splatter: only windows that lie in the transmission as a whole count.
    weigh: (start, length) => [levels.frames.activeShare(start, length) === 1 ? 1 : 0],
    isComplex: true,
    kernel: levels.kernel,
  });
  await eachPairBlock(source, levels.block, options, [0.4, 1], () => averager.push(levels.block.values()));
  return averager.result()[0];
}

/** Share of the power within 6 kHz of two equal tones that lies in their lines; 0 where there are none. */
export async function twoToneShare(source: SampleSource, options: IqOptions = {}): Promise<Fraction> {
  const levels = await scanLevels(source, options, [0, 0.4]);
  const spectrum = await steadySpectrum(source, options, levels);
  const notes: Notes = {};
  const tones = spectrum && findTones(spectrum, undefined, notes);
  if (!spectrum || !tones || notes.tonesHz) return 0;
  const middle = (tones[0] + tones[1]) / 2;
  const noise = noiseDensity(spectrum, middle, [middle - FARTHEST_TONE_HZ, middle + FARTHEST_TONE_HZ]) ?? 0;
  const around = bandPower(spectrum, middle - FARTHEST_TONE_HZ, middle + FARTHEST_TONE_HZ) - noise * 2 * FARTHEST_TONE_HZ;
  return around > 0 ? (linePower(spectrum, tones[0]) + linePower(spectrum, tones[1])) / around : 0;
}

const linePower = (spectrum: Spectrum, hz: Hertz, noise = 0): Power => {
  const half = LINE_BINS * spectrum.binHz;
  return Math.max(0, bandPower(spectrum, hz - half, hz + half) - noise * 2 * half);
};

/** The two strongest lines, lower first. @param nearHz look near this only */
function findTones(spectrum: Spectrum, nearHz: Hertz | undefined, notes: Notes): [Hertz, Hertz] | null {
  const first = strongestLine(spectrum, nearHz);
  const gap = LEAST_SPACING_BINS * spectrum.binHz;
  const others: Spectrum = {
    ...spectrum,
    density: spectrum.density.map((value, k) => {
      const distance = Math.abs(spectrum.firstHz + k * spectrum.binHz - first);
      return distance < gap || distance > FARTHEST_TONE_HZ ? 0 : value;
    }),
  };
  const second = strongestLine(others);
  const [a, b] = [linePower(spectrum, first), linePower(spectrum, second)];
  if (!(b > 0) || powerToDb(a / b) > MOST_UNEQUAL_DB || Math.abs(first - second) > FARTHEST_TONE_HZ) {
    notes.tonesHz = 'There are no two tones within 20 dB and 6 kHz of each other.';
    return null;
  }
  if (powerToDb(a / b) > 1) notes.tonesHz = `The tones are not equal: ${decibels(powerToDb(a / b))} apart.`;
  return first < second ? [first, second] : [second, first];
}

function productsOf(
  spectrum: Spectrum,
  [low, high]: readonly [Hertz, Hertz],
  hiding: Hiding,
  notes: Notes,
): Pick<TwoToneMeasurement, 'imd3Db' | 'imd5Db'> {
  const mean = (linePower(spectrum, low) + linePower(spectrum, high)) / 2;
  const spacing = high - low;
  const strongest = (key: 'imd3Db' | 'imd5Db', steps: number): Decibels | null => {
    const places = [low - steps * spacing, high + steps * spacing].filter((hz) => hz > spectrum.firstHz && hz < highestHz(spectrum));
    if (places.length === 0) {
      notes[key] = 'The file does not reach its products.';
      return null;
    }
    const power = Math.max(...places.map((hz) => linePower(spectrum, hz)));
    noteNoise(notes, key, power, { ...hiding, widthHz: 2 * LINE_BINS * spectrum.binHz });
    return power > 0 ? powerToDb(power / mean) : null;
  };
  return { imd3Db: strongest('imd3Db', 1), imd5Db: strongest('imd5Db', 2) };
}

function findingsOf(numbers: Omit<TwoToneMeasurement, 'findings'>, own?: OwnLimits): (Finding | null)[] {
  const clean = (key: 'imd3PepDb' | 'imd5PepDb') => (numbers.notes[key] ? null : numbers[key]);
  const spacing = numbers.tonesHz ? numbers.tonesHz[1] - numbers.tonesHz[0] : 0;
  const code = 'overdrive';
  const text = 'The amplifier bends: less drive, or more supply and bias if it is set for less than it can.';
  return [
    judge('imd3', clean('imd3PepDb'), own, {
      code,
      text,
      evidence: `third-order products at ${decibels(numbers.imd3PepDb ?? 0)} re PEP (${decibels(numbers.imd3Db ?? 0)} re a tone), tones ${hertz(spacing)} apart`,
    }) ??
      judge('imd5', clean('imd5PepDb'), own, {
        code,
        text,
        evidence: `fifth-order products at ${decibels(numbers.imd5PepDb ?? 0)} re PEP`,
      }),
  ];
}
