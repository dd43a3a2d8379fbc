/** The usual slips on a card: a bank edited that does not work, a switch overlooked, a band far outside. Common practice. */
import type { Decibels } from '../units/index.ts';
import { type Card, valueOn } from './card.ts';
import { positionsOf } from './dialScale.ts';
import { type DialState, effective, nameOf } from './effective.ts';
import { type EqualizerBand, equalizerBands } from './equalizer.ts';
import { dialInRole, dialOf, type RigProfile } from './rig.ts';
import { valueText } from './sheet.ts';

/** What is possibly overlooked, and the change that sets it right. */
export interface Mistake {
  readonly code: 'switch-off' | 'dead-bank' | 'outside-passband' | 'narrow-fm';
  readonly text: string;
  /** What sets it right. */
  readonly remedy: string;
  /** The dials it is about. */
  readonly dials: readonly string[];
}

/** The slips in words, for a line in a list. */
export const MISTAKE_LABELS: Readonly<Record<Mistake['code'], string>> = {
  'switch-off': 'switch off',
  'dead-bank': 'dead bank',
  'outside-passband': 'outside passband',
  'narrow-fm': 'narrow FM',
};

/** What is possibly overlooked on a card; empty when nothing does. */
export function mistakesOn(rig: RigProfile, card: Card): Mistake[] {
  const { dials } = effective(rig, card);
  const states = new Map(dials.map((state) => [state.dial.id, state]));
  const set = equalizerBands(rig).filter((band) => Number(states.get(band.level)?.value) !== Number(dialOf(rig, band.level).rest));
  return [...asleep(rig, card, set, states), ...beyond(set, states), ...narrow(rig, card)];
}

type States = ReadonlyMap<string, DialState>;

function asleep(rig: RigProfile, card: Card, set: readonly EqualizerBand[], states: States): Mistake[] {
  const dead = set.filter((band) => ['switch', 'bank'].includes(states.get(band.level)?.dead?.kind ?? ''));
  if (dead.length === 0) return [];
  const reason = states.get(dead[0].level)?.dead;
  const levels = dead.map((band) => band.level);
  const told = levels.map((id) => `${dialOf(rig, id).label} ${valueText(dialOf(rig, id), valueOn(card, dialOf(rig, id)))}`).join(', ');
  if (reason?.kind === 'switch') {
    return [
      {
        code: 'switch-off',
        text: `The equalizer is set (${told}) but does nothing: ${reason.text}`,
        remedy: reason.enable,
        dials: levels,
      },
    ];
  }
  // A bank kept for the other state of the processor is no slip; one edited in place of the live one is.
  const isLiveUsed = set.some((band) => !states.get(band.level)?.dead);
  if (isLiveUsed) return [];
  const live = equalizerBands(rig).find((band) => !states.get(band.level)?.dead)?.bank;
  return [
    {
      code: 'dead-bank',
      text: `Bank ${dead[0].bank} holds the numbers (${told}), but bank ${live ?? 'of the other state'} is the one in use, and it is flat.`,
      remedy: `${reason?.enable ?? ''}${live ? ` Or put the numbers into bank ${live}.` : ''}`,
      dials: levels,
    },
  ];
}

const lower = (text: string): string => text[0].toLowerCase() + text.slice(1);

/** So much of its range makes a band "maxed out". */
const MAXED = 0.75;

function beyond(set: readonly EqualizerBand[], states: States): Mistake[] {
  return set.flatMap((band) => {
    const state = states.get(band.level);
    const isOutside = state?.remark != null || state?.dead?.kind === 'passband';
    if (!state || !isOutside || Math.abs(Number(state.value)) < MAXED * reachOf(state)) return [];
    return [
      {
        code: 'outside-passband' as const,
        text: `${nameOf(state.dial)} stands at ${valueText(state.dial, state.value)}: ${lower(state.remark ?? state.dead?.text ?? '')}`,
        remedy: 'Use a band inside the passband, or widen the passband.',
        dials: [band.level],
      },
    ];
  });
}

const reachOf = ({ dial, value }: DialState): Decibels => {
  const ends = positionsOf(dial.scale).map(Number);
  return Number(value) > 0 ? Math.max(...ends) : -Math.min(...ends);
};

function narrow(rig: RigProfile, card: Card): Mistake[] {
  const dial = card.mode === 'fm' ? dialInRole(rig, 'fm-width', 'fm') : undefined;
  if (!dial || valueOn(card, dial) !== 'narrow') return [];
  return [
    {
      code: 'narrow-fm',
      text: `${nameOf(dial)} is narrow: into a wide repeater the voice is 6 dB lower, and sounds like low power.`,
      remedy: 'Set it to wide unless the repeater is narrow too. Some radios reset to narrow by themselves.',
      dials: [dial.id],
    },
  ];
}
