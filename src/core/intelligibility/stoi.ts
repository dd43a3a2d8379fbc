/**
 * Short-time objective intelligibility. Source: C. Taal, R. Hendriks, R. Heusdens, J. Jensen 2011: 10 kHz, frames of
 * 256 in transforms of 512, 15 third octaves from 150 Hz, stretches of 30 frames (384 ms), clipping at -15 dB.
 * Shown as a second opinion only: against the full voice it counts a band that a radio does not send as lost.
 */
import { atRate, binPower, type StftShape, stft, stftCount } from '../dsp/index.ts';
import { dbToAmplitude, type Hertz, powerToDb } from '../units/index.ts';

const RATE_HZ: Hertz = 10000;
const FRAME = 256;
const HOP = 128;
const SIZE = 512;
const BANDS = 15;
const LOWEST_HZ = 150;
const STRETCH = 30;
const SILENT_DB = 40;
const CLIP = 1 + dbToAmplitude(15);

/** Hann window without its zeros at the ends, as the authors use it. */
const WINDOW = Float64Array.from({ length: FRAME }, (_, n) => 0.5 - 0.5 * Math.cos((2 * Math.PI * (n + 1)) / (FRAME + 1)));

const SHAPE: StftShape = { window: WINDOW, hopSamples: HOP, size: SIZE };

/** Bins of each band: nearest to its edges, the upper one left out. */
const EDGES = Array.from({ length: BANDS }, (_, b) => {
  const nearest = (hz: Hertz) => Math.round((hz * SIZE) / RATE_HZ);
  return [nearest(LOWEST_HZ * 2 ** ((2 * b - 1) / 6)), nearest(LOWEST_HZ * 2 ** ((2 * b + 1) / 6))] as const;
});

/** Frames of both in which the clean one is within 40 dB of its loudest, put together again. */
function withoutSilence(clean: Float64Array, heard: Float64Array): [Float64Array, Float64Array] {
  const energy = Array.from({ length: stftCount(clean.length, SHAPE) }, (_, f) => {
    let sum = 0;
    for (let n = 0; n < FRAME; n++) sum += (WINDOW[n] * clean[f * HOP + n]) ** 2;
    return powerToDb(sum + 1e-300);
  });
  const loudest = energy.reduce((a, b) => Math.max(a, b), -Infinity);
  const kept = energy.flatMap((db, f) => (db > loudest - SILENT_DB ? [f] : []));
  const again = (samples: Float64Array) => {
    const out = new Float64Array(kept.length === 0 ? 0 : (kept.length - 1) * HOP + FRAME);
    kept.forEach((f, at) => {
      for (let n = 0; n < FRAME; n++) out[at * HOP + n] += WINDOW[n] * samples[f * HOP + n];
    });
    return out;
  };
  return [again(clean), again(heard)];
}

/** Band magnitudes, frame by frame: [f * BANDS + b]. */
function bandMagnitudes(samples: Float64Array): { values: Float64Array; frames: number } {
  const values = new Float64Array(stftCount(samples.length, SHAPE) * BANDS);
  const frames = stft(samples, SHAPE, (spectrum, f) => {
    EDGES.forEach(([from, to], b) => {
      values[f * BANDS + b] = Math.sqrt(binPower(spectrum, from, to));
    });
  });
  return { values, frames };
}

/** @returns 1 for the same signal, falling with noise; null when there are fewer than 30 frames of speech */
export function stoi(clean: Float64Array, heard: Float64Array, rateHz: Hertz): number | null {
  const length = Math.min(clean.length, heard.length);
  const [x, y] = withoutSilence(
    ...([clean, heard].map((each) => atRate(each.subarray(0, length), rateHz, RATE_HZ)) as [Float64Array, Float64Array]),
  );
  const [a, b] = [bandMagnitudes(x), bandMagnitudes(y)];
  if (a.frames < STRETCH) return null;
  let sum = 0;
  let count = 0;
  for (let last = STRETCH; last <= a.frames; last++) {
    for (let band = 0; band < BANDS; band++, count++) {
      const row = (values: Float64Array) => Float64Array.from({ length: STRETCH }, (_, k) => values[(last - STRETCH + k) * BANDS + band]);
      sum += similarity(row(a.values), row(b.values));
    }
  }
  return sum / count;
}

/** Correlation of two envelopes, the second brought to the first one's energy and clipped. */
function similarity(clean: Float64Array, heard: Float64Array): number {
  const energy = (row: Float64Array) => Math.sqrt(row.reduce((sum, x) => sum + x * x, 0));
  const gain = energy(clean) / (energy(heard) + Number.EPSILON);
  const clipped = heard.map((y, k) => Math.min(gain * y, CLIP * clean[k]));
  const away = (row: Float64Array) => {
    const middle = row.reduce((sum, x) => sum + x, 0) / row.length;
    return row.map((x) => x - middle);
  };
  const [a, b] = [away(clean), away(clipped)];
  return a.reduce((sum, x, k) => sum + x * b[k], 0) / (energy(a) * energy(b) + Number.EPSILON);
}
