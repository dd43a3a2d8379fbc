/** Peak and mean envelope power of a signal that comes and goes with a voice. */
import { FRAME_SECONDS, FrameLevels } from '../dsp/meter/frameMeter.ts';
import type { Complex } from '../dsp/signals/analytic.ts';
import { joined } from '../dsp/signals/joined.ts';
import { mean, percentile } from '../dsp/statistics/statistics.ts';
import type { Hertz, Power } from '../units/units.ts';

/** 99.9 percentile and mean of the envelope's power over the active part (as `ssb` measures them). */
export function peakAndMean({ i, q }: Complex, rateHz: Hertz): { peak: Power; mean: Power } {
  const powers = i.map((x, n) => x * x + q[n] * q[n]);
  const size = Math.round(FRAME_SECONDS * rateHz);
  const frames = Array.from({ length: Math.ceil(powers.length / size) }, (_, f) => powers.subarray(f * size, (f + 1) * size));
  const { active } = new FrameLevels(frames.map(mean), size, 0);
  const all = joined(frames.filter((_, f) => active[f]));
  return { peak: percentile(all, 99.9), mean: mean(all) };
}
