/** Which dial a name means on this rig: a frequency, a place in the path, a band. */
import {
  bandCentre,
  type Card,
  compareMenu,
  type Dial,
  type DialRole,
  type DialValue,
  type DialValues,
  dialInRole,
  dialOf,
  type EqualizerBand,
  effective,
  enableEqualizer,
  equalizerBands,
  type Mode,
  nameOf,
  positionsOf,
  type RigProfile,
  valueOn,
} from '../rig/index.ts';
import { type Hertz, octavesAbove } from '../units/index.ts';
import type { BandPart, Place, Region } from './phrases.ts';

/** A dial to move, and what else has to be set with it. */
export interface NamedDial {
  readonly dial: Dial;
  readonly also: readonly { readonly dial: Dial; readonly to: DialValue }[];
  /** How the words were understood, where that needs saying. */
  readonly remark: string;
}

/** Why the words name nothing on this rig, in one sentence. */
export class NotUnderstood extends Error {
  override name = 'NotUnderstood';
}

/** It was understood, and the dial has no such value. */
export class OffTheScale extends NotUnderstood {}

/** A slider or band farther from the frequency than this is not meant by it. */
const FARTHEST_OCTAVES = 0.6;
/** A band in use this near the frequency is the one to turn. */
const SAME_OCTAVES = 0.34;

/** Bands in use with these switches; with the equalizer off, as if it were on. */
export function liveBands(rig: RigProfile, card: Card): readonly EqualizerBand[] {
  return effective(rig, enableEqualizer(rig, card)).bands;
}

const distance = (a: Hertz, b: Hertz) => Math.abs(octavesAbove(a, b));

/** The band that acts at a frequency. @throws NotUnderstood */
export function dialAt(rig: RigProfile, card: Card, hz: Hertz): NamedDial {
  const bands = liveBands(rig, card);
  if (bands.length === 0) throw new NotUnderstood(`${rig.name} has no equalizer band that works here.`);
  const values = effective(rig, enableEqualizer(rig, card)).values;
  if (bands[0].shape !== 'bell') {
    const [bass, treble] = bands;
    const middle = Math.sqrt(bandCentre(bass, values) * bandCentre(treble, values));
    const band = hz < middle ? bass : treble;
    const dial = dialOf(rig, band.level);
    return { dial, also: [], remark: `${rig.name} has only tone knobs: ${dial.label} is the one for ${hz} Hz.` };
  }
  const ranked = [...bands].sort((a, b) => distance(bandCentre(a, values), hz) - distance(bandCentre(b, values), hz));
  const [nearest] = ranked;
  const centre = bandCentre(nearest, values);
  if (typeof nearest.centre === 'number') {
    if (distance(centre, hz) > FARTHEST_OCTAVES) throw new NotUnderstood(`No slider near ${hz} Hz; the nearest is ${centre} Hz.`);
    return { dial: dialOf(rig, nearest.level), also: [], remark: centre === hz ? '' : `The slider nearest to ${hz} Hz is ${centre} Hz.` };
  }
  if (distance(centre, hz) < SAME_OCTAVES && Number(values[nearest.level]) !== 0) {
    return { dial: dialOf(rig, nearest.level), also: [], remark: centre === hz ? '' : `The band at ${centre} Hz is the one for ${hz} Hz.` };
  }
  // A band that does nothing yet can be brought to the frequency.
  const idle = ranked
    .filter((band) => Number(values[band.level]) === 0 && typeof band.centre === 'string')
    .map((band) => ({ band, dial: dialOf(rig, String(band.centre)) }))
    .map(({ band, dial }) => ({ band, dial, to: nearestTo(dial, hz) }))
    .filter(({ to }) => distance(Number(to), hz) < SAME_OCTAVES / 2)
    .sort((a, b) => distance(Number(a.to), hz) - distance(Number(b.to), hz))[0];
  if (idle) {
    const level = dialOf(rig, idle.band.level);
    const isThere = valueOn(card, idle.dial) === idle.to;
    return { dial: level, also: isThere ? [] : [{ dial: idle.dial, to: idle.to }], remark: '' };
  }
  if (distance(centre, hz) <= FARTHEST_OCTAVES) {
    return { dial: dialOf(rig, nearest.level), also: [], remark: `No free band reaches ${hz} Hz; the one at ${centre} Hz is turned.` };
  }
  throw new NotUnderstood(`No band is free for ${hz} Hz; the nearest stands at ${centre} Hz and is in use.`);
}

const nearestTo = (dial: Dial, hz: Hertz): DialValue =>
  positionsOf(dial.scale).reduce((best, each) => (distance(Number(each), hz) < distance(Number(best), hz) ? each : best));

const only = (rig: RigProfile, stage: Dial['stage']): Dial | undefined => rig.dials.find((dial) => dial.stage === stage);

/** The switch that all bands wait for. */
export function equalizerSwitch(rig: RigProfile): Dial | undefined {
  const [band] = equalizerBands(rig);
  const need = band && dialOf(rig, band.level).needs?.find(({ dial }) => dialOf(rig, dial).stage === 'equalizer');
  return need && dialOf(rig, need.dial);
}

/** The dials of a place in the transmit path; the switch first where there is one. */
export function dialsOf(rig: RigProfile, { mode }: Pick<Card, 'mode'>, place: Place): Dial[] {
  const roles = (...names: DialRole[]) => names.flatMap((role) => dialInRole(rig, role, mode) ?? []);
  const orStage = (found: Dial[], stage: Dial['stage']) => (found.length > 0 ? found : [only(rig, stage)].flatMap((dial) => dial ?? []));
  switch (place) {
    case 'mic':
      return orStage(roles('mic-gain'), 'gain');
    case 'compressor':
      return orStage(roles('processor', 'compression'), 'compressor');
    case 'carrier':
      return roles('carrier-offset');
    case 'fm width':
      return roles('fm-width');
    case 'power':
      return roles('power');
    case 'equalizer':
      return [equalizerSwitch(rig)].flatMap((dial) => dial ?? []);
    default:
      return passbandDials(rig, mode, place);
  }
}

function passbandDials(rig: RigProfile, mode: Mode, place: Place): Dial[] {
  const passband = rig.passbands.find(({ modes }) => modes.includes(mode));
  if (!passband || passband.kind === 'fixed') return [];
  if (passband.kind === 'choice') return [dialOf(rig, passband.dial)];
  const [low, high] = [dialOf(rig, passband.low), dialOf(rig, passband.high)];
  return place === 'low cut' ? [low] : place === 'high cut' ? [high] : [low, high];
}

/** A band's dial. @throws NotUnderstood */
export function bandDial(rig: RigProfile, { centre, level, width }: EqualizerBand, part: BandPart): Dial {
  const which = { centre, level, width }[part];
  if (typeof which === 'string') return dialOf(rig, which);
  throw new NotUnderstood(`The ${part} of ${nameOf(dialOf(rig, level))} is fixed.`);
}

const REGION_HZ: Readonly<Record<Region, readonly [Hertz, Hertz]>> = {
  lows: [0, 350],
  'low mids': [350, 700],
  mids: [500, 1700],
  'high mids': [1500, 2600],
  highs: [1900, 20_000],
};

/** Bands that a part of the voice means: those inside it that the passband lets through, else the nearest of them. */
export function bandsIn(rig: RigProfile, card: Card, region: Region): readonly EqualizerBand[] {
  const { bands, values, passbandHz } = settings(rig, card);
  if (bands.length === 0) throw new NotUnderstood(`${rig.name} has no equalizer band that works here.`);
  const [low, high] = REGION_HZ[region];
  if (bands[0].shape !== 'bell') {
    if (region === 'mids') throw new NotUnderstood(`${rig.name} has only tone knobs, none for the mids.`);
    return [region.startsWith('low') ? bands[0] : bands[1]];
  }
  const heard = bands.filter((band) => bandCentre(band, values) >= passbandHz[0] && bandCentre(band, values) <= passbandHz[1]);
  const from = heard.length > 0 ? heard : bands;
  const inside = from.filter((band) => bandCentre(band, values) >= low && bandCentre(band, values) <= high);
  if (inside.length > 0) return typeof inside[0].centre === 'number' ? inside : [nearestBand(inside, region, values)];
  // Bands that can be moved stand by their place in the row; sliders by the nearest.
  if (typeof from[0].centre === 'string' && bands.length >= 3)
    return [
      region.startsWith('low') ? bands[0] : region.startsWith('high') ? bands[bands.length - 1] : bands[Math.floor(bands.length / 2)],
    ];
  return [nearestBand(from, region, values)];
}

function nearestBand(bands: readonly EqualizerBand[], region: Region, values: DialValues): EqualizerBand {
  const [low, high] = REGION_HZ[region];
  const middle = Math.sqrt(Math.max(100, low) * Math.min(4000, high));
  const away = (band: EqualizerBand) => distance(bandCentre(band, values), middle);
  return bands.reduce((best, each) => (away(each) < away(best) ? each : best));
}

/** Bands whose centres lie between two frequencies. */
export function bandsBetween(rig: RigProfile, card: Card, low: Hertz, high: Hertz): readonly EqualizerBand[] {
  const { bands, values } = settings(rig, card);
  const found = bands.filter((band) => bandCentre(band, values) >= low * 0.99 && bandCentre(band, values) <= high * 1.01);
  if (found.length > 0) return found;
  const where = low <= 0 ? `below ${high} Hz` : high >= 20_000 ? `above ${low} Hz` : `between ${low} and ${high} Hz`;
  throw new NotUnderstood(`No band ${where} works here.`);
}

/** "The low one", "the second slider", "band 3". @throws NotUnderstood */
export function bandNumbered(rig: RigProfile, card: Card, which: 'low' | 'mid' | 'high' | number, bank: string | undefined): EqualizerBand {
  const named = bank === undefined ? [] : equalizerBands(rig).filter((band) => band.bank?.toLowerCase() === bank);
  const bands = named.length > 0 ? named : settings(rig, card).bands;
  if (which === 'mid' && bands.length === 2) throw new NotUnderstood(`${rig.name} has no middle band.`);
  const at = which === 'low' ? 0 : which === 'high' ? bands.length - 1 : which === 'mid' ? Math.floor((bands.length - 1) / 2) : which - 1;
  const band = bands[at];
  if (!band) throw new NotUnderstood(`There is no band ${which}: ${bands.length === 0 ? 'no band works here' : `1 to ${bands.length}`}.`);
  return band;
}

/** As the card stands, its equalizer as if it were on. */
const settings = (rig: RigProfile, card: Card) => effective(rig, enableEqualizer(rig, card));

/** Dials from one menu address to another, in the menu's order. @throws NotUnderstood */
export function addressesBetween(rig: RigProfile, from: Dial, to: Dial): Dial[] {
  if (compareMenu(from, to) > 0) throw new NotUnderstood(`${from.menu} comes after ${to.menu} in the menu.`);
  return rig.dials.filter((dial) => dial.menu !== '' && compareMenu(dial, from) >= 0 && compareMenu(dial, to) <= 0).sort(compareMenu);
}
