/**
 * Wishes put on a rig's own dials: the equalizer nearest to a curve, the nearest passband, a share of the compression
 * scale. Starting cards and copies are made of these.
 */
import type { CurvePoint } from '../curve/index.ts';
import { mean, TWELFTH_CENTRES, VOICE_THIRD_OCTAVES } from '../dsp/index.ts';
import {
  type Card,
  type Dial,
  type DialValue,
  type DialValues,
  dialInRole,
  dialOf,
  type Mode,
  passbandOf,
  positionsOf,
  type RigProfile,
} from '../rig/index.ts';
import { type Decibels, type Hertz, octavesAbove } from '../units/index.ts';
import { fitEqualizer } from './fitEqualizer.ts';
import type { FitCosts } from './fitQuestion.ts';

/** Next to nothing but the curve counts: small costs keep idle bands idle and levels moderate. */
const CURVE_FIRST: FitCosts = { move: 1e-3, lift: 0, boost: 2e-3, cut: 1e-3, crowding: 0, level: 5e-3 };
/** A voice that is equally strong everywhere: matching it is matching the curve. */
const FLAT_VOICE = { speechPowers: TWELFTH_CENTRES.map(() => 1), pausePowers: null };
const FLAT = TWELFTH_CENTRES.map(() => 0);

/** Dial values whose response is nearest to a wanted curve. */
export interface MatchedCurve {
  readonly values: DialValues;
  /** RMS over the third octaves inside the passband, overall gain free. */
  readonly errorDb: Decibels;
}

/**
 * The equalizer dials of a rig that come nearest to a curve, overall gain free, inside the card's passband.
 * @param wantedDb response wanted at VOICE_TWELFTH_OCTAVES
 * @param isInsideOnly leave bands beyond the passband alone, though their skirts might help
 * @throws FitImpossible when no equalizer dial works in the card's mode
 */
export function matchCurve(rig: RigProfile, card: Card, wantedDb: readonly Decibels[], isInsideOnly = false): MatchedCurve {
  const target = thirdsOf(wantedDb);
  const { best } = fitEqualizer({
    rig,
    card,
    voice: FLAT_VOICE,
    isExact: true,
    heardResponseDb: FLAT,
    target,
    costs: CURVE_FIRST,
    isInsideOnly,
  });
  return { values: best.values, errorDb: best.errorDb };
}

/** A curve's average over each third octave, as a target for a flat voice. */
export const thirdsOf = (twelfthsDb: readonly Decibels[]): CurvePoint[] =>
  VOICE_THIRD_OCTAVES.map(({ centreHz }, b) => [centreHz, mean(twelfthsDb.slice(4 * b, 4 * b + 4))]);

/** Distance of two passbands in octaves, both edges together. */
const passbandDistance = (a: readonly [Hertz, Hertz], b: readonly [Hertz, Hertz]): number =>
  Math.abs(octavesAbove(a[0], b[0])) + Math.abs(octavesAbove(a[1], b[1])) * 2;

/** The dials that choose the nearest passband. */
export function nearestPassband(
  rig: RigProfile,
  mode: Mode,
  values: DialValues,
  wanted: readonly [Hertz, Hertz],
  notes: string[] = [],
): DialValues {
  const passband = rig.passbands.find((each) => each.modes.includes(mode));
  const nearest = (dial: Dial, hz: Hertz): DialValue =>
    positionsOf(dial.scale).reduce((best, each) =>
      Math.abs(octavesAbove(Math.max(1, Number(each)), hz)) < Math.abs(octavesAbove(Math.max(1, Number(best)), hz)) ? each : best,
    );
  let chosen: DialValues = {};
  if (passband?.kind === 'edges') {
    chosen = {
      [passband.low]: nearest(dialOf(rig, passband.low), wanted[0]),
      [passband.high]: nearest(dialOf(rig, passband.high), wanted[1]),
    };
  } else if (passband?.kind === 'choice') {
    const [best] = [...passband.edges].sort((a, b) => passbandDistance([a[1], a[2]], wanted) - passbandDistance([b[1], b[2]], wanted));
    chosen = { [passband.dial]: best[0] };
  }
  const [low, high] = passbandOf(rig, mode, { ...values, ...chosen });
  if (low !== wanted[0] || high !== wanted[1]) {
    notes.push(`Passband ${wanted[0]}–${wanted[1]} Hz becomes ${low}–${high} Hz, the nearest that ${rig.name} has.`);
  }
  return chosen;
}

/** The position at a share of the way between a dial's ends. */
export function positionAt(dial: Dial, share: number): DialValue {
  const positions = positionsOf(dial.scale);
  return positions[Math.round(Math.max(0, Math.min(1, share)) * (positions.length - 1))];
}

/** Switch and amount for a share of the compression scale; 0 switches it off. */
export function compressionDials(rig: RigProfile, mode: Mode, share: number): DialValues {
  const processor = dialInRole(rig, 'processor', mode);
  const dial = dialInRole(rig, 'compression', mode);
  if (!dial) return {};
  if (!processor) {
    // Off is the first position here: a little compression is not none.
    const positions = positionsOf(dial.scale);
    const at = share > 0 ? Math.max(1, Math.round(Math.min(1, share) * (positions.length - 1))) : 0;
    return { [dial.id]: positions[Math.min(at, positions.length - 1)] };
  }
  const need = dial.needs?.find((each) => each.dial === processor.id);
  const positions = positionsOf(processor.scale);
  const on = need?.is[0] ?? positions[positions.length - 1];
  const off = positions.find((each) => !(need?.is ?? [on]).includes(each)) ?? positions[0];
  return share > 0 ? { [processor.id]: on, [dial.id]: positionAt(dial, share) } : { [processor.id]: off };
}
