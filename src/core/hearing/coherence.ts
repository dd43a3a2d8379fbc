/**
 * How much of what is heard still follows the clean voice: magnitude-squared coherence, band by band (J. Kates and
 * K. Arehart 2005), over a sliding stretch of speech. Each frame counts alike and its gain is taken out first: a gain
 * that follows the words is compression and no distortion; what fills the gaps of a voice is.
 */
import type { BandFrames } from './bandFrames.ts';

/** Frames on each side: a quarter of a second in all, about a syllable. */
const AROUND = 5;

/**
 * @param clean the voice through all that is linear
 * @param heard the same stretch of what is to be judged, in step with it
 * @returns share of the power of band b in frame f that follows the voice, at [f * bands + b]
 */
export function localCoherence(clean: BandFrames, heard: BandFrames): Float64Array {
  const bands = clean.edges.length;
  const count = Math.min(clean.count, heard.count);
  const shares = new Float64Array(count * bands);
  const cross = { re: new Float64Array(count), im: new Float64Array(count) };
  clean.edges.forEach(([from, to], b) => {
    for (let f = 0; f < count; f++) {
      const own = rootPower(clean, f, from, to);
      const other = rootPower(heard, f, from, to);
      const scale = own > 0 && other > 0 ? 1 / (own * other) : 0;
      let [re, im] = [0, 0];
      for (let k = from; k < to; k++) {
        const at = 2 * (f * clean.bins + k);
        const [a, c, x, y] = [clean.spectra[at], clean.spectra[at + 1], heard.spectra[at], heard.spectra[at + 1]];
        re += x * a + y * c;
        im += y * a - x * c;
      }
      cross.re[f] = scale * re;
      cross.im[f] = scale * im;
    }
    for (let f = 0; f < count; f++) {
      const [first, last] = [Math.max(0, f - AROUND), Math.min(count - 1, f + AROUND)];
      const frames = last - first + 1;
      let [re, im] = [0, 0];
      for (let n = first; n <= last; n++) {
        re += cross.re[n];
        im += cross.im[n];
      }
      const raw = (re ** 2 + im ** 2) / frames ** 2;
      // Unrelated signals would show 1 / n by chance; half of the overlapped frames count as independent.
      const chance = 1 / Math.max(2, ((to - from) * frames) / 2);
      shares[f * bands + b] = Math.max(0, (raw - chance) / (1 - chance));
    }
  });
  return shares;
}

function rootPower({ spectra, bins }: BandFrames, frame: number, from: number, to: number): number {
  let sum = 0;
  for (let k = 2 * (frame * bins + from); k < 2 * (frame * bins + to); k++) sum += spectra[k] * spectra[k];
  return Math.sqrt(sum);
}
