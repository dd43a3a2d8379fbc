/**
 * How much of what is heard still follows the clean voice: magnitude-squared coherence, band by band (J. Kates and
 * K. Arehart 2005), over a sliding stretch of speech. Each frame's gain is taken out first: a gain that follows the words
 * is compression and no distortion; what fills the gaps of a voice is. Frames count alike as far as the voice is in them:
 * in its pauses there is only noise, which says nothing of how the words beside them were bent.
 */
import type { Power } from '../units/index.ts';
import type { BandFrames } from './bandFrames.ts';

/** Frames on each side: a quarter of a second in all, about a syllable. */
const AROUND = 5;
/** Where a band of the voice is this far under its mean, it counts half. */
const HALF_WEIGHT: Power = 0.01;

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
  const owns = new Float64Array(count);
  const weights = new Float64Array(count);
  const sums = new Float64Array(4 * (count + 1));
  clean.edges.forEach(([from, to], b) => {
    let sum = 0;
    for (let f = 0; f < count; f++) {
      owns[f] = rootPower(clean, f, from, to);
      sum += owns[f] * owns[f];
    }
    const least = (HALF_WEIGHT * sum) / Math.max(1, count);
    for (let f = 0; f < count; f++) {
      const own = owns[f];
      const other = rootPower(heard, f, from, to);
      weights[f] = own > 0 ? own ** 2 / (own ** 2 + least) : 0;
      const scale = own > 0 && other > 0 ? weights[f] / (own * other) : 0;
      let re = 0;
      let im = 0;
      for (let k = from; k < to; k++) {
        const at = 2 * (f * clean.bins + k);
        const a = clean.spectra[at];
        const c = clean.spectra[at + 1];
        const x = heard.spectra[at];
        const y = heard.spectra[at + 1];
        re += x * a + y * c;
        im += y * a - x * c;
      }
      cross.re[f] = scale * re;
      cross.im[f] = scale * im;
    }
    // What is summed up to each frame: a stretch is the difference of two.
    for (let f = 0; f < count; f++) {
      const weight = weights[f];
      sums[4 * f + 4] = sums[4 * f] + cross.re[f];
      sums[4 * f + 5] = sums[4 * f + 1] + cross.im[f];
      sums[4 * f + 6] = sums[4 * f + 2] + weight;
      sums[4 * f + 7] = sums[4 * f + 3] + weight * weight;
    }
    for (let f = 0; f < count; f++) {
      const from4 = 4 * Math.max(0, f - AROUND);
      const to4 = 4 * Math.min(count, f + AROUND + 1);
      const re = sums[to4] - sums[from4];
      const im = sums[to4 + 1] - sums[from4 + 1];
      const total = sums[to4 + 2] - sums[from4 + 2];
      const squares = sums[to4 + 3] - sums[from4 + 3];
      const raw = total > 0 ? (re * re + im * im) / (total * total) : 0;
      // As many frames as the uneven weights are worth.
      const frames = squares > 0 ? (total * total) / squares : 1;
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
