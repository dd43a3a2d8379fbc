/** Drive against the next channel: whether an over was clean, and the highest mic gain that stays so. */
import type { SsbMeasurement } from '../../measure/index.ts';
import { type Dial, dialInRole, positionsOf, type RigProfile, shareOf, valueOn } from '../../rig/index.ts';
import type { Decibels, Fraction } from '../../units/index.ts';
import { gainSpanDb } from '../alcGain.ts';
import type { GoalState, SeenOver } from './seen.ts';

/** The next channel is clean below this, against the wanted power (the contract's limit). */
export const CLEAN_DB: Decibels = -36;
/** What is aimed at, so that a louder word stays clean too. */
const AIM_DB: Decibels = -38;
/** How fast the next channel fills above the knee, dB for each dB of drive (third order; common practice). */
const GROWTH = 3;
/** Far below the limit nothing is learnt of the knee. */
const TELLING_DB: Decibels = 14;

/** Power in the louder next channel against the wanted power; null where it is unknown or only noise. */
export function nextChannelDb(radios: readonly SsbMeasurement[]): Decibels | null {
  const radio = radios.at(-1);
  if (!radio) return null;
  const sides = (['wantedSide', 'otherSide'] as const).flatMap((side) => {
    const level = radio.adjacentDb[side];
    return level === null || radio.notes[`adjacentDb.${side}`] !== undefined ? [] : [level];
  });
  return sides.length === 0 ? null : Math.max(...sides);
}

/** By the next channel where it can be measured; else by a finding. */
export function driveOf(radios: readonly SsbMeasurement[]): GoalState['drive'] {
  const radio = radios.at(-1);
  if (!radio) return 'unknown';
  const level = nextChannelDb(radios);
  if (level !== null) return level > CLEAN_DB ? 'high' : 'ok';
  const isAccused = radio.findings.some(({ code, severity }) => severity !== 'ok' && (code === 'overdrive' || code === 'splatter'));
  return isAccused ? 'high' : 'ok';
}

/**
 * The highest share of the gain dial that keeps the next channel clean; 1 where nothing says otherwise.
 * @param shiftDb how much more level the present card sends on than an over's card did, the gain aside
 */
export function cleanShare(rig: RigProfile, overs: readonly SeenOver[], shiftDb: (over: SeenOver) => Decibels): Fraction {
  const dial = dialInRole(rig, 'mic-gain', overs[overs.length - 1].card.mode);
  if (!dial) return 1;
  const span = gainSpanDb(positionsOf(dial.scale).length);
  const told = overs.flatMap((over) => {
    const level = nextChannelDb(over.radios);
    if (level === null || level < CLEAN_DB - TELLING_DB) return [];
    const share = shareOn(over, dial) - shiftDb(over) / span;
    // Overs near the limit tell most of where it is.
    return [{ limit: share + (AIM_DB - level) / GROWTH / span, weight: Math.exp(-Math.abs(level - CLEAN_DB) / 6) }];
  });
  if (told.length === 0) return 1;
  const total = told.reduce((sum, { weight }) => sum + weight, 0);
  return told.reduce((sum, { limit, weight }) => sum + weight * limit, 0) / total;
}

const shareOn = ({ card }: SeenOver, dial: Dial): Fraction => shareOf(dial, valueOn(card, dial));
