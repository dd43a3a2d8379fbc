/**
 * The mic gain dial. Scales mean nothing across radios (common practice: 5 % on one, 60 % on another are both right),
 * so the law is the simplest: decibels in proportion to the dial, silence where it says 0.
 */
import { type AudioStage, instantAudio } from '../../dsp/index.ts';
import { type Decibels, dbToAmplitude, type Fraction } from '../../units/index.ts';

/** What the mic gain dial does in dB. */
export interface MicGainLaw {
  /** Gain with the dial in the middle of its scale. */
  readonly middleDb: Decibels;
  /** From the lower end of the scale to the upper one. */
  readonly spanDb: Decibels;
}

/** In the middle a microphone of medium output drives the ALC as the schools have it. */
export const USUAL_MIC_GAIN: MicGainLaw = { middleDb: 17, spanDb: 40 };

/** @param share where the dial stands on its scale, 0 to 1; null where it is turned all the way off */
export const micGainDb = ({ middleDb, spanDb }: MicGainLaw, share: Fraction | null): Decibels =>
  share === null ? -Infinity : middleDb + spanDb * (share - 0.5);

/** A gain in dB over a stream. */
export function micGainStage(gainDb: Decibels): AudioStage {
  const gain = dbToAmplitude(gainDb);
  if (gain === 1) return instantAudio((block) => block);
  return instantAudio((block) => {
    for (let n = 0; n < block.length; n++) block[n] *= gain;
    return block;
  });
}
