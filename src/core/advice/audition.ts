/** Hearing a change of card before making it: the recording with the heard equalizer undone and another put in. */

import { equalizerSections } from '../hearing/ownVoice.ts';
import { ActiveSpeechMeter } from '../signal/activeSpeechLevel.ts';
import { BiquadChain, inverse } from '../signal/biquad.ts';
import { dbToAmplitude } from '../signal/conversions.ts';
import type { Hertz } from '../signal/units.ts';
import type { Card } from '../station/card.ts';
import type { RigProfile } from '../station/rig.ts';

/** Neither version may come nearer to full scale than this. */
const HIGHEST_PEAK = 0.89;

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
  const chain = new BiquadChain([...equalizerSections(rig, heardWith, rateHz).map(inverse), ...equalizerSections(rig, card, rateHz)]);
  const after = chain.process(samples.slice());
  const level = (signal: Float64Array) => {
    const meter = new ActiveSpeechMeter(rateHz);
    meter.push(signal);
    return meter.result().levelDb;
  };
  const was = level(samples);
  const is = level(after);
  const match = was === null || is === null ? 1 : dbToAmplitude(was - is);
  const peak = Math.max(peakOf(samples), match * peakOf(after));
  const gain = peak > 0 ? HIGHEST_PEAK / peak : 1;
  return { before: samples.map((x) => x * gain), after: after.map((x) => x * gain * match) };
}

function peakOf(samples: Float64Array): number {
  let peak = 0;
  for (const x of samples) peak = Math.max(peak, Math.abs(x));
  return peak;
}

/**
 * Where the busiest stretch of a recording begins.
 * @param active per strip point, whether someone talks
 * @returns index of the first strip point
 */
export function busiestStretch(active: readonly boolean[], length: number): number {
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
