/** Aligns the recording of a foreign sweep with its source: delay and mistuning from the two tracks of frequency. */
import { analytic, createSpectrumEngine, fftSizeFor, mean, median, slope } from '../../dsp/index.ts';
import type { Hertz, Seconds } from '../../units/index.ts';

const HOP_S = 0.01;
const WINDOW_BIN_HZ = 16;
/** A frame is tonal when its strongest line holds this much of its power. */
const TONAL_SHARE = 0.6;
const LOWEST_HZ = 40;
const MOST_MISTUNE_HZ = 200;

/** Frequency of the strongest line over time, where there is one. */
interface Track {
  readonly times: readonly Seconds[];
  readonly hz: readonly Hertz[];
}

function trackOf(samples: Float64Array, rateHz: Hertz): Track {
  const size = fftSizeFor(rateHz, WINDOW_BIN_HZ);
  const engine = createSpectrumEngine({ size, isComplex: false, averages: 1 });
  const binHz = rateHz / size;
  const hop = Math.round(HOP_S * rateHz);
  const frames: { at: Seconds; hz: Hertz; power: number; share: number }[] = [];
  for (let from = 0; from + size <= samples.length; from += hop) {
    engine.input().set(samples.subarray(from, from + size));
    engine.transform(0);
    const powers = engine.powers();
    let top = Math.ceil(LOWEST_HZ / binHz);
    let total = 0;
    for (let k = top; k < powers.length - 1; k++) {
      total += powers[k];
      if (powers[k] > powers[top]) top = k;
    }
    const [a, b, c] = [-1, 0, 1].map((k) => Math.log(Math.max(powers[top + k], 1e-30)));
    const curve = a - 2 * b + c;
    const line = [-2, -1, 0, 1, 2].reduce((sum, k) => sum + (powers[top + k] ?? 0), 0);
    const hz = (top + (curve < 0 ? (a - c) / (2 * curve) : 0)) * binHz;
    frames.push({ at: (from + size / 2) / rateHz, hz, power: line, share: total > 0 ? line / total : 0 });
  }
  const loudest = Math.max(0, ...frames.map(({ power }) => power));
  const tonal = frames.filter(({ power, share }) => share >= TONAL_SHARE && power > loudest * 1e-4);
  return { times: tonal.map(({ at }) => at), hz: tonal.map(({ hz }) => hz) };
}

/** A sweep as its track tells: the time of each frequency. Null when it is none. */
function sweepOf({ times, hz }: Track): { timeOf: (hz: Hertz) => Seconds; growthS: Seconds | null; range: [Hertz, Hertz] } | null {
  const rising = hz.every((value, n) => n === 0 || value > hz[n - 1] - 2);
  // Stepped tones stand still most of the time.
  const still = hz.filter((value, n) => n > 0 && Math.abs(value - hz[n - 1]) < 0.5).length;
  if (times.length < 50 || still > hz.length / 2 || !rising || hz[hz.length - 1] < 2 * hz[0]) return null;
  const logs = hz.map(Math.log);
  const growth = 1 / slope(times, logs);
  const middle = mean(times) - growth * mean(logs);
  const error = Math.max(...times.map((t, n) => Math.abs(t - middle - growth * logs[n])));
  const isExponential = error < 0.02 * (times[times.length - 1] - times[0]);
  return {
    range: [hz[0], hz[hz.length - 1]],
    growthS: isExponential ? growth : null,
    timeOf(wanted) {
      if (isExponential) return middle + growth * Math.log(wanted);
      const next = hz.findIndex((value) => value >= wanted);
      if (next <= 0) return times[next === 0 ? 0 : times.length - 1];
      const share = (wanted - hz[next - 1]) / Math.max(1e-9, hz[next] - hz[next - 1]);
      return times[next - 1] + share * (times[next] - times[next - 1]);
    },
  };
}

/** Where in the reference the recording lies, and how far shifted. */
export interface Alignment {
  /** Recorded time of the source's beginning. */
  readonly delayS: Seconds;
  readonly mistuneHz: Hertz;
  /** Growth time of an exponential sweep; null for another kind. */
  readonly growthS: Seconds | null;
}

/** Why it could not be laid over the reference. */
export type NotAligned = 'no sweep' | 'not found';

/**
 * @returns the alignment; "no sweep" when the source is none (a noise, say); "not found" when the recording does not
 * hold it
 */
export function alignSweep(source: Float64Array, recording: Float64Array, rateHz: Hertz): Alignment | NotAligned {
  const sweep = sweepOf(trackOf(source, rateHz));
  if (!sweep) return 'no sweep';
  const track = trackOf(recording, rateHz);
  const [low, high] = sweep.range;
  const points = track.hz.flatMap((hz, n) => (hz > Math.max(low, 150) && hz < Math.min(high, 5000) ? [[track.times[n], hz] as const] : []));
  if (points.length < 30) return 'not found';
  // With the right shift every point tells the same delay.
  const spreadAt = (shift: Hertz) => {
    const delays = points.map(([t, hz]) => t - sweep.timeOf(Math.max(low, hz - shift)));
    const middle = median(delays);
    return { middle, spread: median(delays.map((delay) => Math.abs(delay - middle))) };
  };
  const best = (from: Hertz, to: Hertz, step: Hertz): Hertz => {
    let found = { shift: from, spread: Number.POSITIVE_INFINITY };
    for (let shift = from; shift <= to; shift += step) {
      const { spread } = spreadAt(shift);
      if (spread < found.spread) found = { shift, spread };
    }
    return found.shift;
  };
  const coarse = best(-MOST_MISTUNE_HZ, MOST_MISTUNE_HZ, 5);
  const fine = best(coarse - 6, coarse + 6, 0.5);
  const { middle, spread } = spreadAt(fine);
  if (spread > 0.05) return 'not found';
  return { ...refined(source, recording, rateHz, { delayS: middle, mistuneHz: fine }, sweep.range), growthS: sweep.growthS };
}

/**
 * The beat between the recording and the source turns with the shift less the delay's share: beat(f) = shift -
 * delay * sweep rate(f). A straight line through the beats over the sweep rate gives both.
 */
function refined(
  source: Float64Array,
  recording: Float64Array,
  rateHz: Hertz,
  { delayS, mistuneHz }: Omit<Alignment, 'growthS'>,
  [low, high]: readonly [Hertz, Hertz],
): Omit<Alignment, 'growthS'> {
  const a = analytic(source);
  const b = analytic(recording);
  const offset = Math.round(delayS * rateHz);
  const block = Math.round(0.02 * rateHz);
  const rates: number[] = [];
  const beats: number[] = [];
  let before: { re: number; im: number; hz: Hertz } | null = null;
  for (let from = 0; from + block < source.length; from += block) {
    let [re, im, turn] = [0, 0, 0];
    for (let n = from; n < from + block; n++) {
      const m = n + offset;
      if (m < 0 || m >= recording.length) continue;
      const [pr, pi] = [b.i[m] * a.i[n] + b.q[m] * a.q[n], b.q[m] * a.i[n] - b.i[m] * a.q[n]];
      const angle = (-2 * Math.PI * mistuneHz * m) / rateHz;
      re += pr * Math.cos(angle) - pi * Math.sin(angle);
      im += pr * Math.sin(angle) + pi * Math.cos(angle);
      if (n > from) turn += Math.atan2(a.q[n] * a.i[n - 1] - a.i[n] * a.q[n - 1], a.i[n] * a.i[n - 1] + a.q[n] * a.q[n - 1]);
    }
    const hz: Hertz = (turn / (block - 1) / (2 * Math.PI)) * rateHz;
    if (before && hz > Math.max(low, 400) && hz < Math.min(high, 2200)) {
      const step = Math.atan2(im * before.re - re * before.im, re * before.re + im * before.im);
      beats.push((step / (2 * Math.PI)) * (rateHz / block));
      rates.push((hz - before.hz) * (rateHz / block));
    }
    before = { re, im, hz };
  }
  if (beats.length < 10) return { delayS, mistuneHz };
  const perRate = slope(rates, beats);
  const residual = median(beats.map((beat, n) => beat - perRate * rates[n]));
  return { delayS: offset / rateHz - perRate, mistuneHz: mistuneHz + residual };
}
