/**
 * Where the suppressed carrier of an SSB voice must be: voiced speech has its harmonics at whole multiples of its
 * pitch from the carrier, and the pitch moves, so that over many moments one place only fits them all.
 */
import type { SampleSource } from '../formats/samples.ts';
import type { Sideband } from '../modulation/ssb.ts';
import { Channel } from '../signal/channel.ts';
import type { Spectrum } from '../signal/spectrum.ts';
import { createSpectrumEngine } from '../signal/spectrumEngine.ts';
import { median } from '../signal/statistics.ts';
import type { Fraction, Hertz } from '../signal/units.ts';
import { hann } from '../signal/window.ts';
import { eachPairBlock, type IqLevels, type IqOptions, scanLevels } from './iq.ts';
import { findKeyed, strongestBand } from './modulated.ts';
import { noiseDensity, occupiedEdges } from './radioSpectrum.ts';

export interface CarrierProposal {
  readonly carrierHz: Hertz;
  /** How far this place stands out: 0 not at all, 1 beyond doubt. */
  readonly confidence: Fraction;
}

const VOICE_WIDTH_HZ = 2400;
const FRAME_S = 0.064;
const MOST_FRAMES = 250;
/** Common practice: transmit filters begin between 50 and 500 Hz above the carrier. */
const BELOW_EDGE: readonly [Hertz, Hertz] = [-20, 650];
const STEP_HZ = 5;
const PITCHES: readonly Hertz[] = Array.from({ length: 95 }, (_, n) => 75 * 1.018 ** n);
const MOST_HARMONICS = 16;
const WHITENING_HZ = 250;
/** A second place must be this far away to count as another. */
const APART_HZ = 35;

/** @returns null when there is no voice to tell it from */
export async function proposeCarrier(source: SampleSource, sideband: Sideband, options: IqOptions = {}): Promise<CarrierProposal | null> {
  const levels = await scanLevels(source, options, [0, 0.3]);
  const bandOf = (map: Spectrum) => ({ centreHz: options.carrierHz ?? strongestBand(map, VOICE_WIDTH_HZ), halfWidthHz: VOICE_WIDTH_HZ });
  const found = await findKeyed(source, options, levels, bandOf, [0.3, 0.6]);
  if (!found) return null;
  const about = found.band.centreHz;
  const noise = noiseDensity(found.spectrum, about, [about - 3500, about + 3500]) ?? 0;
  const edges = occupiedEdges(found.spectrum, about, noise);
  if (!edges) return null;
  const sign = sideband === 'usb' ? 1 : -1;
  const edge = sign > 0 ? edges[0] : edges[1];
  const middle = edge + sign * 1500;
  const frames = await loudFrames(source, options, levels, middle);
  if (frames.length < 20) return null;
  const candidates: Hertz[] = [];
  for (let below = BELOW_EDGE[0]; below <= BELOW_EDGE[1]; below += STEP_HZ) candidates.push(edge - sign * below);
  const scores = candidates.map(() => 0);
  for (const frame of frames) {
    const each = candidates.map((carrier) => bestComb(frame, carrier - middle, sign));
    // A moment without pitch favours nobody: each counts by how far it stands out.
    const usual = median(each);
    each.forEach((score, c) => {
      scores[c] += score - usual;
    });
  }
  const best = scores.indexOf(Math.max(...scores));
  const others = scores.filter((_, c) => Math.abs(candidates[c] - candidates[best]) > APART_HZ);
  const second = Math.max(...others);
  const usual = median(scores);
  return {
    carrierHz: peakBetween(candidates, scores, best),
    confidence: Math.max(0, Math.min(1, (scores[best] - second) / (0.4 * (scores[best] - usual)))),
  };
}

/** A moment's spectrum, log and whitened: level(offset from the middle). */
interface Moment {
  readonly binHz: Hertz;
  /** Index 0 is at -half the rate. */
  readonly levels: Float64Array;
}

async function loudFrames(source: SampleSource, options: IqOptions, { kernel, block }: IqLevels, middle: Hertz): Promise<Moment[]> {
  const channel = new Channel(kernel, {
    sampleRateHz: source.sampleRateHz,
    centreHz: middle,
    halfWidthHz: 2200,
    transitionHz: 800,
    leastRateHz: 6000,
  });
  const rate = channel.sampleRateHz;
  const length = Math.round(FRAME_S * rate);
  const size = 2 ** Math.ceil(Math.log2(4 * length));
  const taper = new Float64Array(size);
  taper.set(hann(length));
  const engine = createSpectrumEngine({ size, isComplex: true, averages: 1, window: taper });
  const frames: { power: number; moment: Moment }[] = [];
  const held: number[] = [];
  await eachPairBlock(source, block, options, [0.6, 1], () => {
    const { i, q } = channel.push(block);
    for (let n = 0; n < i.length; n++) held.push(i[n], q[n]);
    while (held.length >= 2 * length) {
      const input = engine.input();
      input.fill(0, 0, 2 * size);
      let power = 0;
      for (let n = 0; n < 2 * length; n++) {
        input[n] = held[n];
        power += held[n] ** 2;
      }
      held.splice(0, length);
      if (frames.length >= MOST_FRAMES && power <= frames[frames.length - 1].power) continue;
      engine.transform(0);
      frames.push({ power, moment: whitened(engine.powers(), rate / size) });
      frames.sort((a, b) => b.power - a.power);
      frames.length = Math.min(frames.length, MOST_FRAMES);
    }
  });
  const loudest = frames[0]?.power ?? 0;
  return frames.filter(({ power }) => power > 0.02 * loudest).map(({ moment }) => moment);
}

function whitened(powers: Float32Array, binHz: Hertz): Moment {
  const size = powers.length;
  const logs = Float64Array.from({ length: size }, (_, k) => Math.log(powers[(k + size / 2) % size] + 1e-20));
  const half = Math.round(WHITENING_HZ / 2 / binHz);
  const sums = new Float64Array(size + 1);
  logs.forEach((value, k) => {
    sums[k + 1] = sums[k] + value;
  });
  const levels = logs.map((value, k) => {
    const [from, to] = [Math.max(0, k - half), Math.min(size, k + half + 1)];
    return Math.max(-2, Math.min(2, value - (sums[to] - sums[from]) / (to - from)));
  });
  return { binHz, levels };
}

/** How well the best pitch's harmonics fit lines at `offset + sign k pitch`; valleys between them count against. */
function bestComb({ binHz, levels }: Moment, offset: Hertz, sign: number): number {
  const zero = levels.length / 2;
  let best = -Infinity;
  for (const pitch of PITCHES) {
    let sum = 0;
    let count = 0;
    for (let k = 1; k <= MOST_HARMONICS; k++) {
      const at = offset + sign * k * pitch;
      if (Math.abs(at) > 1500) continue;
      sum += levels[Math.round(zero + at / binHz)] - levels[Math.round(zero + (at + (sign * pitch) / 2) / binHz)];
      count++;
    }
    if (count >= 4) best = Math.max(best, sum / Math.sqrt(count));
  }
  return best === -Infinity ? 0 : best;
}

function peakBetween(candidates: readonly Hertz[], scores: readonly number[], best: number): Hertz {
  const [a, b, c] = [scores[best - 1] ?? 0, scores[best], scores[best + 1] ?? 0];
  const curve = a - 2 * b + c;
  const between = curve < 0 ? (a - c) / (2 * curve) : 0;
  return candidates[best] + between * ((candidates[1] ?? 0) - candidates[0]);
}
