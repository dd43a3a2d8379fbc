/** From what was sent and what came back to the response: impulse responses by spectral division (A. Farina, AES 2000). */
import { forwardTransform, inverseTransform, nextPowerOfTwo, timesConjugate, type WholeSpectrum } from '../../dsp/index.ts';
import { type Decibels, type Hertz, type Power, powerToDb, type Seconds } from '../../units/index.ts';

/** The linear response lies within this of its time; filters of transceivers ring for some ten milliseconds. */
const BEFORE_S = 0.08;
const AFTER_S = 0.25;
/** Harmonics of high order come close after each other. */
const AFTER_HARMONIC_S = 0.12;
/** So long after everything nothing arrives but noise. */
const SILENCE_S = 0.5;
const EDGE_S = 0.03;
/** Bins with less than this of the sent signal's strongest are not divided by. */
const LEAST_SENT = 1e-5;
/** Resolution of a response. */
export const POINTS_AN_OCTAVE = 24;
/** Where a response begins. */
export const LOWEST_HZ = 60;
/** Where it ends. */
export const HIGHEST_HZ = 6000;
/** Harmonics looked for. */
export const ORDERS = [2, 3, 4, 5] as const;

/** Linear response and harmonics, as power gains over frequency. */
export interface Response {
  /** Power gain at a frequency, averaged over a 24th of an octave. */
  gain(hz: Hertz): Power;
  /** The same for the part that came as the harmonic of an order, at its own frequency. */
  harmonic(order: number, hz: Hertz): Power;
  /** What stands where nothing was sent: the noise in such a part. */
  noise(hz: Hertz): Power;
}

/**
 * @param sent     the signal as it was made
 * @param received the same stretch as it came back, in step with `sent` within some ten milliseconds
 * @param growthS  growth time of an exponential sweep; null for other signals, which have no harmonics apart
 */
export function deconvolve(sent: Float64Array, received: Float64Array, rateHz: Hertz, growthS: Seconds | null): Response {
  // What wraps around lies beyond everything looked at.
  const size = nextPowerOfTwo(received.length + rateHz);
  const x = forwardTransform(size, sent);
  const energy = x.re.map((re, k) => re * re + x.im[k] ** 2);
  const least = energy.reduce((most, e) => Math.max(most, e), 0) * LEAST_SENT;
  const product = timesConjugate(forwardTransform(size, received), x);
  const impulse = inverseTransform({
    re: product.re.map((re, k) => (energy[k] > least ? re / energy[k] : 0)),
    im: product.im.map((im, k) => (energy[k] > least ? im / energy[k] : 0)),
  }).i;
  const part = (centreS: Seconds, afterS = AFTER_HARMONIC_S) => powersOfPart(impulse, size, rateHz, centreS, afterS);
  const linear = part(0, AFTER_S);
  const ahead = (order: number) => part(-(growthS ?? 0) * Math.log(order));
  const harmonics = new Map(growthS === null ? [] : ORDERS.map((order) => [order as number, ahead(order)]));
  const silence = growthS === null ? null : part(SILENCE_S);
  const binHz = rateHz / linear.size;
  return {
    gain: (hz) => around(linear.powers, binHz, hz),
    harmonic: (order, hz) => around(harmonics.get(order)?.powers ?? null, binHz, hz),
    noise: (hz) => around(silence?.powers ?? null, binHz, hz),
  };
}

/** Squared magnitudes of a windowed stretch of the impulse response. */
function powersOfPart(
  impulse: Float64Array,
  size: number,
  rateHz: Hertz,
  centreS: Seconds,
  afterS: Seconds,
): { powers: Float64Array; size: number } {
  const [before, after, edge] = [BEFORE_S, afterS, EDGE_S].map((s) => Math.round(s * rateHz));
  const centre = Math.round(centreS * rateHz);
  const length = before + after;
  const own = nextPowerOfTwo(rateHz);
  const cut = Float64Array.from({ length }, (_, n) => {
    const at = (((centre - before + n) % size) + size) % size;
    const near = Math.min(n, length - 1 - n);
    return impulse[at] * (near >= edge ? 1 : 0.5 - 0.5 * Math.cos((Math.PI * near) / edge));
  });
  const spectrum: WholeSpectrum = forwardTransform(own, cut);
  return { powers: spectrum.re.slice(0, own / 2 + 1).map((re, k) => re * re + spectrum.im[k] ** 2), size: own };
}

function around(powers: Float64Array | null, binHz: Hertz, hz: Hertz): Power {
  if (!powers) return 0;
  const half = 2 ** (0.5 / POINTS_AN_OCTAVE);
  const from = Math.min(powers.length - 1, Math.max(0, Math.round(hz / half / binHz)));
  const to = Math.min(powers.length - 1, Math.max(from, Math.round((hz * half) / binHz)));
  let sum = 0;
  for (let k = from; k <= to; k++) sum += powers[k];
  return sum / (to - from + 1);
}

/** 24 points an octave from 60 to 6000 Hz, 1 kHz among them. */
export const CURVE_FREQUENCIES: readonly Hertz[] = Array.from({ length: 161 }, (_, k) => 1000 * 2 ** ((k - 98) / POINTS_AN_OCTAVE)).filter(
  (hz) => hz >= LOWEST_HZ * 0.98 && hz <= HIGHEST_HZ,
);

/** The gain as a curve re 1 kHz. */
export function curveOf(gain: (hz: Hertz) => Power, highestHz: Hertz): [Hertz, Decibels][] {
  const middle = gain(1000);
  return CURVE_FREQUENCIES.filter((hz) => hz <= highestHz && gain(hz) > 0).map((hz) => [hz, powerToDb(gain(hz) / middle)]);
}
