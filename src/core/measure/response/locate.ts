/** Finds the product's own response signal in a recording: where it is, how long, how far mistuned, which clock error. */
import {
  analytic,
  closingMarker,
  forwardTransform,
  inverseTransform,
  nextPowerOfTwo,
  openingMarker,
  RESPONSE_SIGNAL,
  responseTimes,
  timesConjugate,
} from '../../dsp/index.ts';
import type { Fraction, Hertz, Seconds } from '../../units/index.ts';

/** A marker counts when this much of the energy there is the marker. Noise alone reaches about 0.05. */
const LEAST_LIKENESS: Fraction = 0.35;
/** Sweeps whose lengths are no whole number of seconds by more than this are cut or have drop-outs. */
const LENGTH_SLACK_S = 0.12;
/** Clock errors are looked for up to here. */
const MOST_PPM = 1000;

/** Where the sweeps lie, with shift and clock. */
export interface Located {
  /** Begin of the first sweep, in recorded time. */
  readonly firstS: Seconds;
  readonly secondS: Seconds;
  /** Length of each sweep as it was made. */
  readonly sweepSeconds: Seconds;
  readonly mistuneHz: Hertz;
  readonly clockPpm: number;
}

/** What of the signal is not there. */
export type Missing = 'no signal' | 'no beginning' | 'no end' | 'other length' | 'sweeps differ';

interface Peak {
  /** Begin of the template in samples, between samples. */
  readonly at: number;
  readonly likeness: Fraction;
}

/** Where a template fits best: its likeness is the share of the recording's energy there that it explains, in amplitude. */
function bestFit(samples: Float64Array, template: Float64Array, from = 0, to = samples.length): Peak {
  const part = samples.subarray(from, to);
  const size = nextPowerOfTwo(part.length + template.length);
  const { i, q } = analytic(template);
  const { i: re, q: im } = inverseTransform(timesConjugate(forwardTransform(size, part), forwardTransform(size, i, q)));
  const energy = new Float64Array(part.length + 1);
  part.forEach((x, n) => {
    energy[n + 1] = energy[n] + x * x;
  });
  const own = template.reduce((sum, x) => sum + x * x, 0);
  const total = energy[part.length];
  // Stretches of next to nothing fit anything.
  const least = (total / Math.max(1, part.length)) * template.length * 1e-4;
  const likenessAt = (n: number) => {
    const here = energy[Math.min(part.length, n + template.length)] - energy[n];
    return here > least ? Math.hypot(re[n], im[n]) / Math.sqrt(here * own) : 0;
  };
  let best = 0;
  for (let n = 1; n < part.length - 1; n++) if (likenessAt(n) > likenessAt(best)) best = n;
  const level = (n: number) => Math.hypot(re[n], im[n]);
  const curve = best > 0 ? level(best - 1) - 2 * level(best) + level(best + 1) : 0;
  const between = curve < 0 ? (level(best - 1) - level(best + 1)) / (2 * curve) : 0;
  return { at: from + best + between, likeness: likenessAt(best) };
}

/** @param samples one channel at `rateHz` */
export function locateResponseSignal(samples: Float64Array, rateHz: Hertz): Located | Missing {
  const opening = bestFit(samples, openingMarker(rateHz));
  const closing = bestFit(samples, closingMarker(rateHz));
  const [hasBegin, hasEnd] = [opening.likeness >= LEAST_LIKENESS, closing.likeness >= LEAST_LIKENESS];
  if (!hasBegin || !hasEnd) return hasBegin ? 'no end' : hasEnd ? 'no beginning' : 'no signal';
  const apart = (closing.at - opening.at) / rateHz;
  const bare = responseTimes(0).closing;
  const sweepSeconds = Math.round((apart - bare) / 2);
  if (sweepSeconds < RESPONSE_SIGNAL.leastSeconds || Math.abs(apart - bare - 2 * sweepSeconds) > LENGTH_SLACK_S) return 'other length';
  const times = responseTimes(sweepSeconds);
  const clock = clockOf(samples, rateHz, opening.at / rateHz + times.first, sweepSeconds);
  if (clock === null) return 'sweeps differ';
  const stretch = 1 + clock;
  // A shift by d makes a rising chirp seem early by d / slope and a falling one late by as much.
  const { lowHz, highHz, seconds } = RESPONSE_SIGNAL.marker;
  const slope = (highHz - lowHz) / seconds;
  const mistuneHz = ((apart / stretch - times.closing) * slope) / 2;
  const begin = opening.at / rateHz + (mistuneHz / slope) * stretch;
  return {
    firstS: begin + times.first * stretch,
    secondS: begin + times.second * stretch,
    sweepSeconds,
    mistuneHz,
    clockPpm: 1e6 * clock,
  };
}

/** Clock error from the distance of the two sweeps, which went through the same filter; null when they are unlike. */
function clockOf(samples: Float64Array, rateHz: Hertz, firstS: Seconds, sweepSeconds: Seconds): number | null {
  const distance = sweepSeconds + RESPONSE_SIGNAL.between;
  const margin = 0.2;
  const cut = (fromS: Seconds, lengthS: Seconds) =>
    samples.slice(Math.max(0, Math.round(fromS * rateHz)), Math.round((fromS + lengthS) * rateHz));
  const first = cut(firstS - margin, sweepSeconds + 2 * margin);
  const slack = distance * MOST_PPM * 1e-6 + 0.002;
  const second = cut(firstS - margin + distance - slack, sweepSeconds + 2 * margin + 2 * slack);
  if (first.length === 0 || second.length < first.length) return null;
  const { at, likeness } = bestFit(second, first, 0, second.length);
  if (likeness < LEAST_LIKENESS) return null;
  const start = Math.round((firstS - margin) * rateHz);
  const secondStart = Math.round((firstS - margin + distance - slack) * rateHz);
  return ((secondStart - Math.max(0, start) + at) / rateHz - distance) / distance;
}
