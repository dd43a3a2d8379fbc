/**
 * Tone by other stations' words, where nobody recorded anything. What holds after weighing is set as the dial line would
 * set it: two clicks or 2 dB on the bands that the words mean; twice that where they were strong about it (common practice).
 */
import { type RemarkCode, readDialLine } from '../../language/index.ts';
import type { Card, DialValues, RigProfile } from '../../rig/index.ts';
import { type HeardReport, weighReports } from '../weighReports.ts';

/** Advice in the dial line's own words. */
const ADVICE: Partial<Record<RemarkCode, string>> = {
  muffled: 'a bit more top',
  harsh: 'a bit less top',
  boomy: 'a bit less bass',
  thin: 'a bit more bass',
};

/** What the words come to. */
export interface Worded {
  /** Dials to set; empty where nothing that dials mend is said, or no dial reaches it. */
  readonly set: DialValues;
  readonly why: string;
  /** Somebody whose word counts finds it good, and nobody's faults hold. */
  readonly isGood: boolean;
}

/** Null where nothing was said. @param reports of the card as it stands */
export function byWords(rig: RigProfile, card: Card, reports: readonly HeardReport[]): Worded | null {
  if (reports.length === 0) return null;
  const { verdicts, askAgain } = weighReports(reports, null);
  const held = verdicts.filter(({ holds }) => holds);
  const faults = held.filter(({ code }) => ADVICE[code] !== undefined);
  let values: DialValues = card.values;
  const said: string[] = [];
  for (const { code, text } of faults) {
    const isStrong = reports.some(({ remarks }) => remarks.some((remark) => remark.code === code && remark.degree === 'strong'));
    for (let k = 0; k < (isStrong ? 2 : 1); k++) {
      const line = readDialLine(ADVICE[code] ?? '', rig, { ...card, values });
      if (line.kind !== 'do') break;
      values = { ...values, ...Object.fromEntries(line.moves.map(({ dial, to }) => [dial.id, to])) };
    }
    said.push(text.replace(/\.$/, ''));
  }
  const set = Object.fromEntries(Object.entries(values).filter(([id, value]) => card.values[id] !== value));
  const isGood = faults.length === 0 && held.some(({ code }) => code === 'good');
  return { set, why: said.length > 0 ? said.join('; ') : (askAgain ?? ''), isGood };
}
