/** Sentences about moves, in the operator's vocabulary. */
import { type Dial, type DialValue, valueText } from '../rig/index.ts';
import { fixed, frequency, signed } from '../units/index.ts';
import type { Expectation } from './nextMove.ts';

/** +2 → −8 dB: the unit once, at the end. */
export const changeText = (dial: Dial, from: DialValue, to: DialValue): string =>
  `${valueText(dial, from).replace(new RegExp(` ${dial.unit}$`), '')} → ${valueText(dial, to)}`;

/** Low band level, 4.12: +2 → −8 dB. */
export const moveText = (dial: Dial, from: DialValue, to: DialValue): string =>
  `${dial.label}${dial.menu ? `, ${dial.menu}` : ''}: ${changeText(dial, from, to)}`;

/** What to expect of a move; the change of tone is told against the rest of the passband. */
export function expectText({ hz, changeDb, alcChangeDb, errorBeforeDb, errorAfterDb }: Expectation): string {
  const alc = Math.abs(alcChangeDb) < 0.3 ? 'level into the ALC about the same' : `level into the ALC ${signed(alcChangeDb, 1)} dB`;
  return `Expect ${signed(changeDb, 1)} dB at ${frequency(hz)} against the rest; ${alc}; off target ${fixed(errorBeforeDb, 1)} → ${fixed(errorAfterDb, 1)} dB.`;
}
