/**
 * Where the suppressed carrier of an SSB voice must be: voiced speech has its harmonics at whole multiples of its
 * pitch from the carrier, and the pitch moves, so that over many moments one place only fits them all.
 */
import { bandPower, createSpectrumEngine, DownConverter, median, percentile, type Spectrum, sum } from '../../dsp/index.ts';
import type { SampleSource } from '../../files/index.ts';
import type { Sideband } from '../../modem/index.ts';
import { type Decibels, dbToPower, type Fraction, type Hertz, type Power, powerToDb } from '../../units/index.ts';
import { eachPairBlock, type IqLevels, type IqOptions, scanLevels } from './iq.ts';
import type { Transmission } from './keying.ts';
import { findKeyed, strongestBand } from './modulated.ts';

/** Where the carrier would be, which sideband, and how sure that is (0 to 1). */
export interface CarrierProposal {
  readonly carrierHz: Hertz;
  /** Probability that the carrier lies within 50 Hz of it (calibrated on recorded voices, see docs/validation). */
  readonly confidence: Fraction;
  /** What it rests on. */
  readonly from: 'line' | 'harmonics';
}

/** How the recording is read. */
export interface ProposalOptions extends IqOptions {
  /** What the card's filter lets through, in audio frequencies. */
  readonly passbandHz?: readonly [Hertz, Hertz];
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
/** Places within this of the best one are the same answer. */
const SAME_HZ = 45;
/** How sharply the combs' score tells one place from another. Tried on recorded voices. */
const SHARPNESS = 0.12;

/** @returns null when there is no voice to tell it from */
export async function proposeCarrier(
  source: SampleSource,
  sideband: Sideband,
  options: ProposalOptions = {},
): Promise<CarrierProposal | null> {
  const levels = await scanLevels(source, options, [0, 0.3]);
  const bandOf = (map: Spectrum) => ({ centreHz: options.carrierHz ?? strongestBand(map, VOICE_WIDTH_HZ), halfWidthHz: VOICE_WIDTH_HZ });
  const found = await findKeyed(source, options, levels, bandOf, [0.3, 0.6]);
  if (!found) return null;
  const sign = sideband === 'usb' ? 1 : -1;
  const edge = nearEdge(found.spectrum, found.band.centreHz, found.noiseDensity ?? 0, sign);
  if (edge === null) return null;
  const middle = edge + sign * 1500;
  const frames = await allMoments(source, options, levels, middle, found.transmissions);
  const line = steadyLine(frames, middle, edge, sign);
  if (line !== null) return { carrierHz: line, confidence: LINE_CONFIDENCE, from: 'line' };
  const loud = loudest(frames);
  if (loud.length < 20) return null;
  const candidates: Hertz[] = [];
  for (let below = BELOW_EDGE[0]; below <= BELOW_EDGE[1]; below += STEP_HZ) candidates.push(edge - sign * below);
  const scores = candidates.map(() => 0);
  for (const frame of loud) {
    const each = candidates.map((carrier) => bestComb(frame, carrier - middle, sign));
    // A moment without pitch favours nobody: each counts by how far it stands out.
    const usual = median(each);
    each.forEach((score, c) => {
      scores[c] += score - usual;
    });
  }
  const weights = candidates.map((carrier, c) => SHARPNESS * scores[c] + priorOf(sign * (edge - carrier), options.passbandHz?.[0]));
  const best = weights.indexOf(Math.max(...weights));
  const odds = weights.map((weight) => Math.exp(weight - weights[best]));
  const near = odds.filter((_, c) => Math.abs(candidates[c] - candidates[best]) <= SAME_HZ);
  return { carrierHz: peakBetween(candidates, scores, best), confidence: sum(near) / sum(odds), from: 'harmonics' };
}

/** Voices are strongest near the filter's lower edge: its carrier side is where the smoothed spectrum last reaches this re its peak. */
const EDGE_DB: Decibels = -18;
const SMOOTHING_HZ = 80;

function nearEdge(spectrum: Spectrum, centreHz: Hertz, noise: number, sign: 1 | -1): Hertz | null {
  const level = (hz: Hertz) => bandPower(spectrum, hz - SMOOTHING_HZ / 2, hz + SMOOTHING_HZ / 2) - noise * SMOOTHING_HZ;
  const places = Array.from({ length: 800 }, (_, n) => centreHz + sign * (n - 400) * 10);
  const levels = places.map(level);
  const peak = Math.max(...levels);
  const first = levels.findIndex((each) => each > peak * dbToPower(EDGE_DB));
  return peak > 0 ? places[first] : null;
}

/** Spread of what filters really do beside what the card says. */
const CARD_EDGE_SPREAD_HZ = 60;
/** Usual lower edges, Hz (common practice), each with this spread; and anything between with less weight. */
const USUAL_EDGES: readonly Hertz[] = [100, 200, 300, 400];
const USUAL_SPREAD_HZ = 45;

/** Natural logarithm of how likely a filter's edge lies so far from the carrier, before anything is heard. */
function priorOf(distance: Hertz, cardEdge: Hertz | undefined): number {
  const bell = (middle: Hertz, spread: Hertz) => Math.exp(-0.5 * ((distance - middle) / spread) ** 2);
  if (cardEdge !== undefined) return Math.log(bell(cardEdge, CARD_EDGE_SPREAD_HZ) + 0.002);
  return Math.log(Math.max(...USUAL_EDGES.map((edge) => bell(edge, USUAL_SPREAD_HZ))) + (distance > 40 && distance < 520 ? 0.1 : 0.01));
}

/** A residual carrier stands this far over what is beside it, in the quieter moments. */
const LEAST_LINE_DB: Decibels = 10;
/** And hardly changes while the voice does. */
const MOST_LINE_SPREAD_DB: Decibels = 6;
const LINE_CONFIDENCE: Fraction = 0.97;
/** Share of the moments that are quieter. */
const QUIETER = 30;
/** What stands at the very centre of a file is the receiver's own as often as not. */
const CENTRE_HZ = 12;
/** A strong residual carrier is taken for the edge itself. */
const LINE_INSIDE_HZ = 80;

/** The residual carrier, where one can be seen below the voice: a line that is there in talk and between the words alike. */
function steadyLine(frames: readonly Moment[], middle: Hertz, edge: Hertz, sign: 1 | -1): Hertz | null {
  if (frames.length < 20) return null;
  const { binHz, powers } = frames[0];
  const zero = powers.length / 2;
  const binOf = (hz: Hertz) => Math.round(zero + (hz - middle) / binHz);
  const at = (k: number, percent: number) =>
    powerToDb(
      Math.max(
        percentile(
          frames.map((frame) => frame.powers[k]),
          percent,
        ),
        Number.MIN_VALUE,
      ),
    );
  const [from, to] = [binOf(edge - sign * BELOW_EDGE[1]), binOf(edge + sign * LINE_INSIDE_HZ)].sort((a, b) => a - b);
  const levels = new Map<number, Decibels>();
  const reach = Math.round(160 / binHz);
  for (let k = from - reach; k <= to + reach; k++) if (k >= 0 && k < powers.length) levels.set(k, at(k, QUIETER));
  let best: { k: number; over: Decibels } | null = null;
  for (let k = from; k <= to; k++) {
    const level = levels.get(k);
    if (level === undefined || level < (levels.get(k - 1) ?? -Infinity) || level < (levels.get(k + 1) ?? -Infinity)) continue;
    const aside = [...levels]
      .filter(([other]) => Math.abs(other - k) * binHz >= 60 && Math.abs(other - k) <= reach)
      .map(([, each]) => each);
    if (aside.length === 0 || Math.abs(middle + (k - zero) * binHz) < CENTRE_HZ) continue;
    const over =
      level - Math.max(median(aside.filter((_, n) => n < aside.length / 2)), median(aside.filter((_, n) => n >= aside.length / 2)));
    if (over >= LEAST_LINE_DB && at(k, 90) - level <= MOST_LINE_SPREAD_DB && (!best || over > best.over)) best = { k, over };
  }
  if (!best) return null;
  const [a, b, c] = [-1, 0, 1].map((step) => levels.get((best as { k: number }).k + step) ?? -300);
  const curve = a - 2 * b + c;
  return middle + (best.k - zero + (curve < 0 ? (a - c) / (2 * curve) : 0)) * binHz;
}

/** A moment's spectrum about the middle of the voice; index 0 is at -half the rate. */
interface Moment {
  readonly binHz: Hertz;
  readonly power: Power;
  readonly powers: Float32Array;
}

/** The same, log and whitened. */
interface Whitened {
  readonly binHz: Hertz;
  readonly levels: Float64Array;
}

async function allMoments(
  source: SampleSource,
  options: IqOptions,
  { kernel, block }: IqLevels,
  middle: Hertz,
  transmissions: readonly Transmission[],
): Promise<Moment[]> {
  const channel = new DownConverter(kernel, {
    sampleRateHz: source.sampleRateHz,
    centreHz: middle,
    halfWidthHz: 2200,
    transitionHz: 800,
    leastRateHz: 6000,
  });
  const rate = channel.sampleRateHz;
  const step = source.sampleRateHz / rate;
  const [first, last] = [transmissions[0].from, transmissions[transmissions.length - 1].to];
  const length = Math.round(FRAME_S * rate);
  const size = 2 ** Math.ceil(Math.log2(4 * length));
  const engine = createSpectrumEngine({ size, isComplex: true, averages: 1 });
  engine.setHann(length);
  const moments: Moment[] = [];
  let filled = 0;
  let start = 0;
  await eachPairBlock(source, block, options, [0.6, 1], () => {
    const { i, q } = channel.push(block);
    for (let n = 0; n < i.length; n++) {
      const input = engine.input();
      input[2 * filled] = i[n];
      input[2 * filled + 1] = q[n];
      if (++filled < length) continue;
      filled = 0;
      start += length;
      // Before and after the over there is no transmitter to tell of.
      if ((start - length) * step < first || start * step > last) continue;
      input.fill(0, 2 * length, 2 * size);
      engine.transform(0);
      const raw = engine.powers();
      const powers = raw.map((_, k) => raw[(k + size / 2) % size]);
      moments.push({ binHz: rate / size, power: powers.reduce((a, b) => a + b, 0), powers });
    }
  });
  return moments;
}

function loudest(moments: readonly Moment[]): Whitened[] {
  const loud = [...moments].sort((a, b) => b.power - a.power).slice(0, MOST_FRAMES);
  return loud.filter(({ power }) => power > 0.02 * loud[0].power).map(({ powers, binHz }) => whitened(powers, binHz));
}

function whitened(powers: Float32Array, binHz: Hertz): Whitened {
  const size = powers.length;
  const logs = Float64Array.from(powers, (power) => Math.log(power + 1e-20));
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
function bestComb({ binHz, levels }: Whitened, offset: Hertz, sign: number): number {
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
