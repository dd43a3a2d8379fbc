/** A mic gain of coarse steps, made finer by the equalizer. */
import { type Card, type DialValues, dialInRole, positionsOf, type RigProfile, valueOn } from '../../rig/index.ts';
import type { Decibels } from '../../units/index.ts';
import { gainSpanDb } from '../alcGain.ts';
import type { AlcStanding } from '../alcStanding.ts';
import { liveLevels } from './bandsAlike.ts';
import { looksAt } from './evidence.ts';
import { type Look, turns } from './look.ts';
import type { NextInput } from './seen.ts';

type GainStanding = NonNullable<AlcStanding['gain']>;

/** The equalizer is turned for a finer level where the zone becomes so much likelier. */
const FINER_BY = 0.1;
/** So far from the best tone bass and treble may go for it. */
const FINER_LOSS_DB: Decibels = 0.5;

/**
 * A gain of coarse steps may have no place inside the zone; an equalizer has finer ones between them. Null where none is so much
 * likelier to bring the ALC there.
 */
export function finerStanding(
  { rig, tone, held, chance }: Look,
  input: NextInput,
  values: DialValues,
  standing: GainStanding,
  standingWith: (values: DialValues) => GainStanding | null,
): { set: DialValues; standing: GainStanding; why: string } | null {
  if (!turns(input, 'tone') || held !== null || chance === null) return null;
  const isSliders = rig.equalizer.kind === 'graphic';
  const isNear = (set: DialValues) => tone !== null && tone.errorWith({ ...values, ...set }) <= tone.bestDb + FINER_LOSS_DB;
  // What may cost some of the tone is not turned after a single look.
  const sets = isSliders || looksAt(input) > 1 ? finerLevels(rig, { mode: input.mode, values }) : [];
  const found = sets.flatMap((set) => {
    const one = isSliders || isNear(set) ? standingWith({ ...values, ...set }) : null;
    return one ? [{ set, standing: one }] : [];
  });
  const least = Math.max(standing.chance, chance) + FINER_BY;
  const best = found.reduce((a, b) => (b.standing.chance > a.standing.chance ? b : a), { set: {}, standing });
  if (best.standing.chance < least) return null;
  return {
    ...best,
    why: isSliders ? 'all sliders alike, which is level and not tone' : 'bass and treble make up for it, and the tone hardly changes',
  };
}

/** A step of the gain that may jump over a zone. */
const COARSE_DB: Decibels = 1;
/** So many steps of the sliders alike, of bass and treble each, are tried either way. */
const MOST_STEPS = 3;
const MOST_KNOB_STEPS = 2;
const eitherWay = (most: number): number[] => Array.from({ length: 2 * most + 1 }, (_, k) => k - most);

/**
 * An equalizer a step or more louder or softer: finer than a mic gain of coarse steps. Sliders alike, which leaves the tone as it
 * is; bass and treble by a step or two, which may not. No dial leaves its scale. None for parametric bands, whose rigs have fine gains.
 */
export function finerLevels(rig: RigProfile, card: Card): DialValues[] {
  const gain = dialInRole(rig, 'mic-gain', card.mode);
  const positions = gain ? positionsOf(gain.scale).length : 0;
  const isCoarse = positions > 1 && gainSpanDb(positions) / (positions - 1) >= COARSE_DB;
  const levels = isCoarse ? liveLevels(rig, card) : [];
  const turns: number[][] =
    rig.equalizer.kind === 'graphic'
      ? eitherWay(MOST_STEPS).map((by) => levels.map(() => by))
      : rig.equalizer.kind === 'tone'
        ? levels.reduce<number[][]>((all, _) => all.flatMap((each) => eitherWay(MOST_KNOB_STEPS).map((by) => [...each, by])), [[]])
        : [];
  return turns
    .filter((turn) => turn.some((by) => by !== 0))
    .flatMap((turn) => {
      const moved = levels.map((dial, k) => {
        const positions = positionsOf(dial.scale);
        return [dial.id, positions[positions.indexOf(valueOn(card, dial)) + turn[k]]] as const;
      });
      return moved.some(([, value]) => value === undefined) ? [] : [Object.fromEntries(moved)];
    });
}
