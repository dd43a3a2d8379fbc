/**
 * RF clipper: the analytic signal of the passband driven by the amount of compression and cut off at the ceiling.
 * Its envelope is cut, not the audio itself, so that no harmonics arise inside the passband, only intermodulation;
 * the passband filter behind it takes off what falls outside. (Kahn 1957, "comparison of SSB and clipping", as told
 * in handbooks; from memory.) The gain stays after clipping: that is what raises the mean.
 */
import { type Complex, instantRadio, type RadioStage } from '../../dsp/index.ts';
import { type Decibels, dbToAmplitude, dbToPower, powerToDb } from '../../units/index.ts';

/** A stage that tells by how much it has turned peaks down, as a compression meter does. */
export interface Compressing {
  /** Most that was taken off a peak so far. */
  highestDb(): Decibels;
}

/** @param ceilingDb peak envelope, re full drive, that is let through */
export function clipperStage(compressionDb: Decibels, ceilingDb: Decibels): RadioStage & Compressing {
  const gain = dbToAmplitude(compressionDb);
  const ceiling = dbToAmplitude(ceilingDb);
  const most = dbToPower(ceilingDb - compressionDb);
  let highest = 0;
  const stage = instantRadio(({ i, q }: Complex) => {
    for (let n = 0; n < i.length; n++) {
      const power = i[n] * i[n] + q[n] * q[n];
      if (power > highest) highest = power;
      const scale = power > most ? ceiling / Math.sqrt(power) : gain;
      i[n] *= scale;
      q[n] *= scale;
    }
    return { i, q };
  });
  return { ...stage, highestDb: () => Math.max(0, powerToDb(highest / most)) };
}
