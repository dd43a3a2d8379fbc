/** A receiver's automatic gain control: brings loud and faint to one level, quickly down and slowly up. It hides level. */
import { type AudioStage, instantAudio } from '../../dsp/index.ts';
import { type Decibels, dbToAmplitude, type Hertz, type Seconds } from '../../units/index.ts';

/** Attack, hang, decay and what it holds the level to. */
export interface AgcShape {
  readonly attackS: Seconds;
  readonly releaseS: Seconds;
  /** Peaks are brought here, re full scale. */
  readonly targetDb: Decibels;
  readonly mostGainDb: Decibels;
}

/** As for rag chews; common practice. */
export const SLOW_AGC: AgcShape = { attackS: 0.004, releaseS: 0.6, targetDb: -8, mostGainDb: 60 };
/** As for CW; common practice. */
export const FAST_AGC: AgcShape = { ...SLOW_AGC, releaseS: 0.12 };

/** A receiver that is switched on in the middle of a signal has found its gain after so long: nobody hears it wind down from the most. */
const SETTLED_S: Seconds = 0.03;

/** Holds the audio's level by its peaks. */
export function agcStage({ attackS, releaseS, targetDb, mostGainDb }: AgcShape, rateHz: Hertz): AudioStage {
  const [attack, release] = [attackS, releaseS].map((seconds) => 1 - Math.exp(-1 / (rateHz * seconds)));
  const target = dbToAmplitude(targetDb);
  const least = target / dbToAmplitude(mostGainDb);
  let peak = 0;
  let settling = Math.round(SETTLED_S * rateHz);
  return instantAudio((block) => {
    for (let n = 0; n < block.length; n++) {
      const size = Math.abs(block[n]);
      if (settling > 0) {
        settling--;
        peak = Math.max(peak, size);
      } else peak += (size - peak) * (size > peak ? attack : release);
      block[n] *= target / Math.max(least, peak);
    }
    return block;
  });
}
