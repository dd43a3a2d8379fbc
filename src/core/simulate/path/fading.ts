/**
 * Two rays: a path and its echo. Either still (a comb of notches 1/delay apart), or each fading by itself as in the
 * Watterson model of an HF channel (C. Watterson, J. Juroshek, W. Bensema 1970; classes of ITU-R F.1487): two equal
 * Rayleigh paths with a Gaussian Doppler spectrum, whose width is two standard deviations.
 */
import { type Complex, gaussian, instantRadio, joined, type RadioStage, type Random, seededRandom } from '../../dsp/index.ts';
import { type Decibels, dbToAmplitude, type Hertz, type Seconds } from '../../units/index.ts';

/** Delay and fading rate by class. Source: ITU-R F.1487. */
export const HF_CLASSES = {
  good: { delayS: 0.0005, spreadHz: 0.1 },
  moderate: { delayS: 0.001, spreadHz: 0.5 },
  poor: { delayS: 0.002, spreadHz: 1 },
} as const;
/** One of the classes. */
export type HfClass = keyof typeof HF_CLASSES;

/** A second ray: delay, level, phase. */
export interface TwoRays {
  readonly delayS: Seconds;
  /** The echo re the direct ray. */
  readonly echoDb: Decibels;
  /** Phase of the echo at the carrier, radians. */
  readonly phase: number;
}

/** Holds the samples that the echo still needs. */
class Delay {
  readonly #past: { i: Float64Array; q: Float64Array };

  constructor(readonly samples: number) {
    this.#past = { i: new Float64Array(samples), q: new Float64Array(samples) };
  }

  push({ i, q }: Complex): Complex {
    const shift = (past: Float64Array, block: Float64Array) => {
      const all = joined([past, block]);
      past.set(all.subarray(block.length));
      return all.subarray(0, block.length);
    };
    return { i: shift(this.#past.i, i), q: shift(this.#past.q, q) };
  }
}

/** Two rays that stand still: a comb. */
export function twoRayStage({ delayS, echoDb, phase }: TwoRays, rateHz: Hertz): RadioStage {
  const delay = new Delay(Math.round(delayS * rateHz));
  const [c, s] = [Math.cos, Math.sin].map((part) => dbToAmplitude(echoDb) * part(phase));
  return instantRadio((block) => {
    const echo = delay.push(block);
    return {
      i: block.i.map((x, n) => x + c * echo.i[n] - s * echo.q[n]),
      q: block.q.map((x, n) => x + s * echo.i[n] + c * echo.q[n]),
    };
  });
}

const OSCILLATORS = 48;
/** Gains are worked out this often and lie on straight lines between; fading is a thousand times slower than audio. */
const STEP_S: Seconds = 0.01;

/** A complex Gaussian gain of mean power 1/2 as a sum of slow turns, whose frequencies are drawn from the spectrum. */
function rayleighGain(spreadHz: Hertz, random: Random): (seconds: Seconds) => readonly [number, number] {
  const normal = gaussian(random);
  const turns = Array.from({ length: OSCILLATORS }, () => ({
    hz: (spreadHz / 2) * normal(),
    phase: 2 * Math.PI * random(),
    size: Math.sqrt(-Math.log(1 - random()) / (2 * OSCILLATORS)),
  }));
  return (seconds) => {
    let [re, im] = [0, 0];
    for (const { hz, phase, size } of turns) {
      const angle = 2 * Math.PI * hz * seconds + phase;
      re += size * Math.cos(angle);
      im += size * Math.sin(angle);
    }
    return [re, im];
  };
}

/** Mean power in and out are equal. */
export function fadingStage(kind: HfClass, rateHz: Hertz, seed: number): RadioStage {
  const { delayS, spreadHz } = HF_CLASSES[kind];
  const random = seededRandom(seed);
  const gains = [rayleighGain(spreadHz, random), rayleighGain(spreadHz, random)];
  const delay = new Delay(Math.round(delayS * rateHz));
  const step = Math.round(STEP_S * rateHz);
  let at = 0;
  let [from, to] = [0, 1].map((k) => gains.map((gain) => gain((k * step) / rateHz)));
  return instantRadio((block) => {
    const echo = delay.push(block);
    const out = { i: new Float64Array(block.i.length), q: new Float64Array(block.i.length) };
    for (let n = 0; n < block.i.length; n++, at++) {
      const share = (at % step) / step;
      if (at > 0 && share === 0) {
        from = to;
        to = gains.map((gain) => gain((at + step) / rateHz));
      }
      for (let k = 0; k < 2; k++) {
        const re = from[k][0] + share * (to[k][0] - from[k][0]);
        const im = from[k][1] + share * (to[k][1] - from[k][1]);
        const [x, y] = k === 0 ? [block.i[n], block.q[n]] : [echo.i[n], echo.q[n]];
        out.i[n] += re * x - im * y;
        out.q[n] += re * y + im * x;
      }
    }
    return out;
  });
}
