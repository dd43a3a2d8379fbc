/** What the way to the receiver adds: white noise, and impulses as from ignitions and fences. */
import { type Complex, gaussian, instantRadio, type RadioStage, seededRandom } from '../../dsp/index.ts';
import { type Decibels, dbToAmplitude, dbToPower, type Hertz } from '../../units/index.ts';

/** Noise is told in the bandwidth of an SSB receiver, as operators do. */
export const NOISE_BANDWIDTH_HZ: Hertz = 3000;

/** @param snrDb peak envelope power of full drive over the noise in 3 kHz */
export function whiteNoise(snrDb: Decibels, rateHz: Hertz, seed: number): RadioStage {
  const normal = gaussian(seededRandom(seed));
  // Half of the power in each part.
  const rms = Math.sqrt((dbToPower(-snrDb) * rateHz) / NOISE_BANDWIDTH_HZ / 2);
  return instantRadio(({ i, q }: Complex) => {
    for (let n = 0; n < i.length; n++) {
      i[n] += rms * normal();
      q[n] += rms * normal();
    }
    return { i, q };
  });
}

/** How often, and how strong re the noise. */
export interface Impulses {
  readonly perSecond: number;
  /** Size of each, re full drive, in one sample. */
  readonly peakDb: Decibels;
}

/** Single impulses at random moments (Poisson) of random phase. */
export function impulseNoise({ perSecond, peakDb }: Impulses, rateHz: Hertz, seed: number): RadioStage {
  const random = seededRandom(seed);
  const peak = dbToAmplitude(peakDb);
  const wait = () => Math.max(1, Math.round((-Math.log(1 - random()) * rateHz) / perSecond));
  let until = wait();
  return instantRadio(({ i, q }: Complex) => {
    for (let n = until - 1; n < i.length; n = until - 1) {
      const angle = 2 * Math.PI * random();
      i[n] += peak * Math.cos(angle);
      q[n] += peak * Math.sin(angle);
      until += wait();
    }
    until -= i.length;
    return { i, q };
  });
}
