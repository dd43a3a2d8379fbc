/**
 * RF clipper: the analytic signal of the passband driven by the amount of compression and cut off at the ceiling.
 * Its envelope is cut, not the audio itself, so that no harmonics arise inside the passband, only intermodulation;
 * the passband filter behind it takes off what falls outside. (Kahn 1957, "comparison of SSB and clipping", as told
 * in handbooks; from memory.) The gain stays after clipping: that is what raises the mean.
 */
import type { Complex } from '../signal/analytic.ts';
import { dbToAmplitude, dbToPower } from '../signal/conversions.ts';
import { instantRadio, type RadioStage } from '../signal/stage.ts';
import type { Decibels } from '../signal/units.ts';

/** @param ceilingDb peak envelope, re full drive, that is let through */
export function clipperStage(compressionDb: Decibels, ceilingDb: Decibels): RadioStage {
  const gain = dbToAmplitude(compressionDb);
  const ceiling = dbToAmplitude(ceilingDb);
  const most = dbToPower(ceilingDb - compressionDb);
  return instantRadio(({ i, q }: Complex) => {
    for (let n = 0; n < i.length; n++) {
      const power = i[n] * i[n] + q[n] * q[n];
      const scale = power > most ? ceiling / Math.sqrt(power) : gain;
      i[n] *= scale;
      q[n] *= scale;
    }
    return { i, q };
  });
}
