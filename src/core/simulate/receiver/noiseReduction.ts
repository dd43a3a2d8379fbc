/**
 * What noise reduction does to a voice: spectral subtraction over short frames (S. Boll 1979) with the noise taken
 * from each bin's lows. It leaves hollow sound and chirps behind, more so on faint signals; that is why it is here.
 */
import FFT from 'fft.js';
import { type AudioStage, joined } from '../../dsp/index.ts';
import type { Fraction } from '../../units/index.ts';

const SIZE = 512;
const HOP = SIZE / 2;
/** Frames over which a bin's lowest power is looked for: about a second and a half. */
const MEMORY = 140;
/** The mean of noise stands about this many times over its smoothed lows. */
const OVER_LOWS = 3;

/** @param strength 0 to 1: share of the estimated noise that is taken off twice over */
export function noiseReductionStage(strength: Fraction): AudioStage {
  const fft = new FFT(SIZE);
  const window = Float64Array.from({ length: SIZE }, (_, n) => Math.sin((Math.PI * (n + 0.5)) / SIZE));
  const smooth = new Float64Array(HOP + 1);
  const lows = Array.from({ length: MEMORY }, () => new Float64Array(HOP + 1).fill(Number.POSITIVE_INFINITY));
  let frames = 0;
  // Half a frame of silence ahead keeps time: frame k is centred on sample k * HOP.
  let held: Float64Array = new Float64Array(HOP);
  let tail = new Float64Array(HOP);
  let came = 0;
  let gone = 0;
  const spectrum = new Array<number>(2 * SIZE);
  const back = new Array<number>(2 * SIZE);

  const frame = (): Float64Array => {
    fft.realTransform(
      spectrum,
      Array.from(window, (w, n) => w * held[n]),
    );
    const lowest = lows[frames++ % MEMORY];
    for (let k = 0; k <= HOP; k++) {
      const power = spectrum[2 * k] ** 2 + spectrum[2 * k + 1] ** 2;
      smooth[k] = frames === 1 ? power : 0.8 * smooth[k] + 0.2 * power;
      lowest[k] = smooth[k];
      let noise = Number.POSITIVE_INFINITY;
      for (const row of lows) noise = Math.min(noise, row[k]);
      const gain = Math.sqrt(Math.max(0.01, 1 - (2 * strength * OVER_LOWS * noise) / Math.max(power, 1e-30)));
      spectrum[2 * k] *= gain;
      spectrum[2 * k + 1] *= gain;
    }
    fft.completeSpectrum(spectrum);
    fft.inverseTransform(back, spectrum);
    const out = tail.map((x, n) => x + window[n] * back[2 * n]);
    tail = tail.map((_, n) => window[n + HOP] * back[2 * (n + HOP)]);
    return out;
  };

  const run = (block: Float64Array): Float64Array => {
    held = joined([held, block]);
    const count = Math.max(0, Math.floor((held.length - SIZE) / HOP) + 1);
    const out = new Float64Array(count * HOP);
    for (let k = 0; k < count; k++) {
      out.set(frame(), k * HOP);
      held = held.subarray(HOP);
    }
    // What the silence ahead became is not the voice's.
    const skip = Math.min(out.length, Math.max(0, HOP - gone));
    gone += out.length;
    return out.subarray(skip);
  };

  return {
    push(block) {
      came += block.length;
      return run(block);
    },
    end() {
      const missing = came - Math.max(0, gone - HOP);
      return run(new Float64Array(missing + SIZE)).subarray(0, missing);
    },
  };
}
