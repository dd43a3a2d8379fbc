/** What a band of the equalizer does for this voice, in the operator's words. */
import { weightedMean } from '../dsp/index.ts';
import {
  bandCentre,
  type Dial,
  type DialValue,
  type DialValues,
  type EqualizerBand,
  type RigProfile,
  widthInOctaves,
} from '../rig/index.ts';
import type { Decibels, Hertz } from '../units/index.ts';
import type { ToneBasis } from './toneError.ts';

/** Regions of a voice as operators name them. Common practice. */
const REGIONS: readonly { upTo: Hertz; lift: string; cut: string }[] = [
  { upTo: 220, lift: 'adds chest', cut: 'takes the chest out' },
  { upTo: 450, lift: 'adds body', cut: 'takes the boom out' },
  { upTo: 900, lift: 'fills the middle', cut: 'thins the middle' },
  { upTo: 1500, lift: 'pushes the mids', cut: 'scoops the mids' },
  { upTo: 3300, lift: 'lifts the consonants', cut: 'softens the consonants' },
  { upTo: Infinity, lift: 'adds air', cut: 'takes the edge off' },
];

/** Frequency as operators write it: 250 Hz, 1.8 kHz. */
export function hertzText(hz: Hertz): string {
  return hz < 1000 ? `${Math.round(hz / 10) * 10} Hz` : `${Number((hz / 1000).toFixed(1))} kHz`;
}

const rangeText = (low: Hertz, high: Hertz): string =>
  low >= 1000
    ? `${Number((low / 1000).toFixed(1))}–${hertzText(high)}`
    : `${hertzText(low)}–${hertzText(high)}`.replace(/ Hz–(\d+ Hz)$/, '–$1');

interface BandStory {
  readonly band: EqualizerBand;
  readonly values: DialValues;
  /** The band's own response at VOICE_TWELFTH_OCTAVES. */
  readonly own: readonly Decibels[];
  /** The same where its dials stand now, when what a move does is told; left out, what the band does altogether. */
  readonly was?: readonly Decibels[];
  readonly basis: ToneBasis;
  /** Residual of each of the basis' bands before the fit. */
  readonly before: readonly Decibels[];
  readonly passbandHz: readonly [Hertz, Hertz];
}

/** A band that changes less than this inside the passband is not heard to. */
const LEAST_HEARD_DB: Decibels = 0.3;

/** One phrase, for example "lifts the consonants; 1.8–2.7 kHz was 6 dB short". */
export function explainBand({ band, values, own, was, basis, before, passbandHz }: BandStory): string {
  const level = Number(values[band.level]);
  if (level === 0 && !was) return 'not needed for this voice';
  const effects = basis.bands.map(({ parts, shares }) =>
    weightedMean(
      parts.map((i) => own[i] - (was?.[i] ?? 0)),
      shares,
    ),
  );
  const strongest = effects.reduce((best, effect) => (Math.abs(effect) > Math.abs(best) ? effect : best), 0);
  if (was && Math.abs(strongest) < LEAST_HEARD_DB) return 'hardly changes this voice by itself';
  const most = was ? strongest : level;
  const acts = basis.bands[effects.indexOf(strongest)]?.centreHz ?? bandCentre(band, values);
  const centre = was ? acts : Math.min(Math.max(bandCentre(band, values), passbandHz[0]), passbandHz[1]);
  const region = REGIONS.find(({ upTo }) => centre <= upTo) ?? REGIONS[REGIONS.length - 1];
  const verb = most > 0 ? region.lift : region.cut;
  // Where it does at least half of its work.
  const touched = basis.bands.flatMap((each, b) =>
    Math.abs(effects[b]) >= Math.abs(most) / 2 && effects[b] > 0 === most > 0 ? [{ hz: each.centreHz, off: before[b] }] : [],
  );
  if (touched.length === 0) return `${verb} around ${hertzText(centre)}`;
  const low = Math.max(touched[0].hz / 1.12, passbandHz[0]);
  const high = Math.min(touched[touched.length - 1].hz * 1.12, passbandHz[1]);
  const off = touched.reduce((sum, each) => sum + each.off, 0) / touched.length;
  const isHelped = Math.sign(off) !== Math.sign(most) && Math.abs(off) >= 0.8;
  return isHelped
    ? `${verb}; ${rangeText(low, high)} was ${Math.abs(off).toFixed(1)} dB ${off < 0 ? 'short' : 'over'}`
    : `${verb}, balancing its neighbours`;
}

/** The reason beside one dial of a fit. */
export function explainDial(
  rig: RigProfile,
  dial: Dial,
  from: DialValue,
  to: DialValue,
  band: EqualizerBand | undefined,
  story: string,
): string {
  if (!band) return 'enables the equalizer: without it none of its dials work';
  if (dial.id === band.level) return story;
  if (dial.id === band.width && typeof from === 'number' && typeof to === 'number') {
    const isWider = widthInOctaves(rig, to) > widthInOctaves(rig, from);
    const meaning = to < from === isWider ? 'here a smaller number is wider' : 'here a larger number is wider';
    return `${isWider ? 'wider' : 'narrower'}; ${meaning}`;
  }
  return 'puts the band where it is needed';
}
