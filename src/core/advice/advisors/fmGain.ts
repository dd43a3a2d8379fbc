/** FM: mic gain against deviation, for the wide or the narrow channel. */
import { type FmWidth, FULL_DEVIATION_HZ, heardReFullDb } from '../../measure/index.ts';
import { type Card, type DialValue, dialInRole, positionsOf, type RigProfile, valueOn, valueText } from '../../rig/index.ts';
import { type Decibels, dbToAmplitude, decibels, type Fraction, fixed, type Hertz } from '../../units/index.ts';
import { differOnlyIn, gapText, type HeardThrough, type RadioGain, stepDb, throughSameMicrophone, turnByHeard } from './gainTurn.ts';

/** More than this would be heard next door. */
const MOST: Fraction = 1.15;
/** Peaks belong between these shares of the full deviation (common practice: 4 to 5 kHz wide, 2 to 2.5 narrow). */
const ZONE: readonly [Fraction, Fraction] = [0.8, 1];
/** An over that fits a narrow channel, while with the same dials one before deviated so many times as far: the radio is not set as the card. */
const FALLEN = { most: 1.05 * FULL_DEVIATION_HZ.narrow, times: 1.6 };
/** Where the next step would be too much, 2 dB under the zone will do; less than that sounds like low power. */
const LEAST: Fraction = 0.64;

/** The width that the card is set to; wide where the rig has no such dial. */
export function fmWidthOn(rig: RigProfile, card: Card): FmWidth {
  const dial = dialInRole(rig, 'fm-width', card.mode);
  return dial && /^\s*n/i.test(String(valueOn(card, dial))) ? 'narrow' : 'wide';
}

/** The usual peak deviation of an over, and the card that it was made with. */
export interface DeviationHeard {
  readonly card: Card;
  readonly peakHz: Hertz;
}

/** Of all overs, newest first, what those with the microphone of `one` would have shown from where it was spoken. */
export const deviationsBeside = <T extends DeviationHeard & HeardThrough>(all: readonly T[], one: T): readonly DeviationHeard[] =>
  throughSameMicrophone(all, one).map(({ heard: { card, peakHz }, factor }) => ({ card, peakHz: factor * peakHz }));

/**
 * Null where this mode has no mic gain.
 * @param peakHz usual peak deviation measured with this card  @param others of overs with other gains from the same distance, newest first
 */
export function fmGain(rig: RigProfile, card: Card, peakHz: Hertz, others: readonly DeviationHeard[] = []): RadioGain | null {
  const dial = dialInRole(rig, 'mic-gain', card.mode);
  if (!dial) return null;
  const width = fmWidthOn(rig, card);
  const full = FULL_DEVIATION_HZ[width];
  const from = valueOn(card, dial);
  const share = peakHz / full;
  const isRight = (hz: Hertz) => hz >= ZONE[0] * full && hz <= ZONE[1] * full;
  const wantedDb = (hz: Hertz): Decibels => -heardReFullDb(hz / ((ZONE[0] + ZONE[1]) / 2), width);
  const alike = others.filter((other) => differOnlyIn(rig, dial, other.card, card));
  const heardHz = new Map(alike.map((other) => [valueOn(other.card, dial), other.peakHz] as const).reverse());
  const [heard, wanted] = [fixed(peakHz / 1000, 1), `${fixed((ZONE[0] * full) / 1000, 1)} to ${fixed(full / 1000, 1)}`];
  const seen = `Peaks usually deviate ${heard} kHz; ${width} wants ${wanted} kHz.`;
  const positions = positionsOf(dial.scale);
  const next = positions[positions.indexOf(from) + 1];
  const nextHz = next === undefined ? undefined : heardHz.get(next);
  // On a dial of few steps the next one may be far too much: then a little less than wanted is right.
  const isNextTooMuch = nextHz === undefined ? share * dbToAmplitude(stepDb(dial)) > MOST : nextHz > full;
  const isNearest = share < ZONE[0] && isNextTooMuch;
  const stay = { dial, from, to: from, isHarmful: false, note: `peaks usually ${heard} kHz, ${wanted} wanted` };
  if (isRight(peakHz) || (isNearest && share >= LEAST))
    return { ...stay, isRight: true, text: `${seen} Leave ${dial.label} at ${valueText(dial, from)}.` };
  const before = Math.max(0, ...alike.filter((other) => valueOn(other.card, dial) === from).map((other) => other.peakHz));
  if (width === 'wide' && peakHz <= FALLEN.most && before > FALLEN.times * peakHz) {
    const was = `With the same dials it was ${fixed(before / 1000, 1)} kHz`;
    const text = `${seen} ${was}: the radio has likely fallen back to narrow, as some do by themselves. Look at its channel width before any gain.`;
    return { ...stay, isRight: false, title: 'Look at the channel width', text };
  }
  const what =
    share > 1 ? 'The next channel hears it' : `It sounds ${decibels(-heardReFullDb(peakHz, width), 0)} softer than others, like low power`;
  const distance = share > 1 ? 'Speak from farther away' : 'Speak at half the distance: that is worth about 6 dB';
  if (isNearest && next !== undefined && nextHz === undefined)
    return {
      ...stay,
      isRight: false,
      text: `${seen} ${what}, and ${dial.label} at ${valueText(dial, next)} would likely be too much. ${distance}.`,
    };
  const heardDb = new Map([...heardHz].map(([value, hz]) => [value, isRight(hz) ? 0 : wantedDb(hz)] as const));
  const { to, gap } = turnByHeard(dial, from, wantedDb(peakHz), heardDb);
  if (gap) {
    const hzAt = (value: DialValue): Hertz => (value === from ? peakHz : (heardHz.get(value) ?? peakHz));
    const kHz = (value: DialValue) => `${valueText(dial, value)} ${fixed(hzAt(value) / 1000, 1)}`;
    const text = `${seen} No position gives that: ${kHz(gap.under)}, ${kHz(gap.over)} kHz. ${gapText(dial, from, to, wantedDb(hzAt(to)))}`;
    return { ...stay, to, isRight: false, text };
  }
  if (to === from) return { ...stay, isRight: false, text: `${seen} ${what}, and ${dial.label} is at its end. ${distance}.` };
  return { ...stay, to, isRight: false, text: `${seen} ${what}: ${dial.label} ${valueText(dial, from)} → ${valueText(dial, to)}.` };
}
