/** Hearing a change of card before making it: the recording with the heard equalizer undone and another put in. */
import { BiquadChain, inverseBiquad } from '../../dsp/index.ts';
import { levelMatched } from '../../playback/index.ts';
import type { Card, RigProfile } from '../../rig/index.ts';
import type { Hertz } from '../../units/index.ts';
import { equalizerSections } from './dryVoice.ts';

/** The same talk before and after a change, at one level. */
export interface Audition {
  readonly before: Float64Array;
  /** After the change, at the same active speech level. */
  readonly after: Float64Array;
}

/**
 * @param samples a stretch of the recording, full scale 1.0
 * @param heardWith card the recording was made with
 * @param card  card to try
 * @returns both versions, level-matched (ITU-T P.56), turned down together where one would clip
 */
export function audition(samples: Float64Array, rateHz: Hertz, rig: RigProfile, heardWith: Card, card: Card): Audition {
  const chain = new BiquadChain([...equalizerSections(rig, heardWith, rateHz).map(inverseBiquad), ...equalizerSections(rig, card, rateHz)]);
  const after = chain.process(samples.slice());
  const [before, louder] = levelMatched([samples, after], rateHz);
  return { before, after: louder };
}

/**
 * Where the busiest stretch of a recording begins.
 * @param active per strip point, whether someone talks
 * @returns index of the first strip point
 */
export function busiestPart(active: readonly boolean[], length: number): number {
  let best = 0;
  let most = -1;
  let count = 0;
  for (let end = 0; end < active.length; end++) {
    if (active[end]) count++;
    if (end >= length && active[end - length]) count--;
    if (count > most) {
      most = count;
      best = Math.max(0, end - length + 1);
    }
  }
  return best;
}
