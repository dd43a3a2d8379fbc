/** A mic gain of coarse steps, made finer by the equalizer. */
import type { DialValues } from '../../rig/index.ts';
import type { Decibels } from '../../units/index.ts';
import type { AlcStanding } from '../alcStanding.ts';
import { finerLevels } from './bandsAlike.ts';
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
