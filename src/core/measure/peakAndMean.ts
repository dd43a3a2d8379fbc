/** Peak and mean envelope power of a signal that comes and goes with a voice. */
import { type Complex, FRAME_SECONDS, FrameLevels, joined, mean, percentile } from '../dsp/index.ts';
import type { Hertz, Power } from '../units/index.ts';

/** 99.9 percentile and mean of the envelope's power over the active part (as `ssb` measures them). */
export function peakAndMean({ i, q }: Complex, rateHz: Hertz): { peak: Power; mean: Power } {
  const powers = new Float64Array(i.length);
  for (let n = 0; n < i.length; n++) powers[n] = i[n] * i[n] + q[n] * q[n];
  const size = Math.round(FRAME_SECONDS * rateHz);
  const frames = Array.from({ length: Math.ceil(powers.length / size) }, (_, f) => powers.subarray(f * size, (f + 1) * size));
  const { active } = new FrameLevels(frames.map(mean), size, 0);
  const all = joined(frames.filter((_, f) => active[f]));
  return { peak: percentile(all, 99.9), mean: mean(all) };
}
