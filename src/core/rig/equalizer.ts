/** An equalizer as bands, whatever its kind, and the filters that its dial values make. */
import { addResponseDb, type Biquad, halfSines, highShelf, lowShelf, peaking } from '../dsp/index.ts';
import { type Decibels, dbToAmplitude, type Hertz, type Octaves, qToOctaves } from '../units/index.ts';
import type { DialValues } from './card.ts';
import type { RigProfile } from './rig.ts';

/** The rate at which equalizers are modelled; high enough that bells below 5 kHz keep their analogue shape. */
export const MODEL_RATE_HZ: Hertz = 48000;

/** One band: dial ids, or numbers where the radio has them fixed. */
export interface EqualizerBand {
  readonly shape: 'bell' | 'low shelf' | 'high shelf';
  readonly bank: string | null;
  readonly centre: string | number;
  readonly level: string;
  /** Width number's dial, or the fixed width in octaves; shelves have none. */
  readonly width: string | number | null;
}

/** All bands of all banks, live or not. */
export function equalizerBands({ equalizer }: RigProfile): EqualizerBand[] {
  switch (equalizer.kind) {
    case 'none':
      return [];
    case 'parametric':
      return equalizer.banks.flatMap(({ name, bands }) =>
        bands.map((band) => ({ shape: 'bell' as const, bank: equalizer.banks.length > 1 ? name : null, ...band })),
      );
    case 'graphic':
      return equalizer.bands.map(({ hz, level }) => ({ shape: 'bell', bank: null, centre: hz, level, width: equalizer.octaves }));
    case 'tone':
      return [
        { shape: 'low shelf', bank: null, centre: equalizer.bass.hz, level: equalizer.bass.level, width: null },
        { shape: 'high shelf', bank: null, centre: equalizer.treble.hz, level: equalizer.treble.level, width: null },
      ];
  }
}

/**
 * What a width number means in octaves. "unknown" is read as octaves until the radio has been measured.
 * Tables are read by the nearest number.
 */
export function widthInOctaves(rig: RigProfile, number: number): Octaves {
  if (rig.equalizer.kind !== 'parametric') return number;
  const { meaning, table } = rig.equalizer.width;
  if (meaning === 'q') return qToOctaves(number);
  if (meaning !== 'table' || !table) return number;
  const nearest = table.reduce((best, row) => (Math.abs(row[0] - number) < Math.abs(best[0] - number) ? row : best));
  return nearest[1];
}

const numberOf = (part: string | number, values: DialValues): number => (typeof part === 'number' ? part : Number(values[part]));

/** What a decibel on its equalizer dials really is. */
export const clickOf = ({ equalizer }: RigProfile): Decibels => (equalizer.kind === 'none' ? 1 : (equalizer.clickDb ?? 1));

/** The filter that one band makes at the given dial values. */
export function bandFilter(rig: RigProfile, band: EqualizerBand, values: DialValues, rateHz: Hertz = MODEL_RATE_HZ): Biquad {
  const centre = numberOf(band.centre, values);
  const level = clickOf(rig) * numberOf(band.level, values);
  if (band.shape === 'low shelf') return lowShelf(rateHz, centre, level);
  if (band.shape === 'high shelf') return highShelf(rateHz, centre, level);
  const width = band.width ?? 1;
  const octaves = typeof width === 'number' ? width : widthInOctaves(rig, Number(values[width]));
  const isResonance = rig.equalizer.kind === 'parametric' && rig.equalizer.bells === 'resonance';
  return peaking(rateHz, centre, level, isResonance ? octaves * resonanceWidth(level) : octaves);
}

/**
 * A resonance beside the straight path, 1 + (g - 1) / (1 + j Q (f / f0 - f0 / f)), is a mirrored bell of the root of g times its
 * width: within 0.05 dB RMS of it from half an octave to three, 16 dB of cut to 12 of lift (by calculation).
 */
const resonanceWidth = (level: Decibels): number => dbToAmplitude(level / 2);

/** Centre frequency of a band at the given dial values. */
export const bandCentre = (band: EqualizerBand, values: DialValues): Hertz => numberOf(band.centre, values);

/** Responses are asked for at the same few lists of frequencies. */
const knownHalfSines = new WeakMap<readonly Hertz[], Float64Array>();

/** Gain of several bands together at each frequency, in dB. */
export function bandsResponseDb(
  rig: RigProfile,
  bands: readonly EqualizerBand[],
  values: DialValues,
  frequencies: readonly Hertz[],
): Decibels[] {
  const phis = knownHalfSines.get(frequencies) ?? halfSines(MODEL_RATE_HZ, frequencies);
  knownHalfSines.set(frequencies, phis);
  const sum = new Float64Array(frequencies.length);
  for (const band of bands) addResponseDb(bandFilter(rig, band, values), phis, sum);
  return [...sum];
}

/** The equalizer in a few words. */
export function equalizerText({ equalizer }: RigProfile): string {
  switch (equalizer.kind) {
    case 'none':
      return 'none';
    case 'parametric': {
      const [{ bands }] = equalizer.banks;
      return `${bands.length} parametric bands${equalizer.banks.length > 1 ? `, banks ${equalizer.banks.map(({ name }) => name).join(' and ')}` : ''}`;
    }
    case 'graphic':
      return `graphic, ${equalizer.bands.length} bands`;
    case 'tone':
      return 'bass and treble knobs';
  }
}
