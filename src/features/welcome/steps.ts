/** The way to the first over: what is there already tells which step is next, so that it can be left and taken up again. */
import type { Station } from '@/server/station/station.ts';

export const STEPS = ['operator', 'radio', 'microphone', 'card', 'over'] as const;
export type Step = (typeof STEPS)[number];

export const STEP_NAMES: Readonly<Record<Step, string>> = {
  operator: 'Who talks',
  radio: 'Which radio',
  microphone: 'Which microphone',
  card: 'What for',
  over: 'First over',
};

/** @param hasCard whether the station has a card */
export function stepOf({ operators, rigs, microphones }: Pick<Station, 'operators' | 'rigs' | 'microphones'>, hasCard: boolean): Step {
  if (operators.length === 0) return 'operator';
  if (rigs.length === 0) return 'radio';
  if (microphones.length === 0) return 'microphone';
  return hasCard ? 'over' : 'card';
}
