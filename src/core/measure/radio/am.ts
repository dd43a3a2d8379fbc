/** The AM measurement: an I/Q recording of an over in, modulation depth and widths out. */
import { bandPower, type Complex, DownConverter, LinearCounter, type Spectrum } from '../../dsp/index.ts';
import type { SampleSource } from '../../files/index.ts';
import { type Finding, judge, type OwnLimits, receiverFirst, worstFirst } from '../../findings/index.ts';
import { type Fraction, type Hertz, hertz, type Power, roughPercent } from '../../units/index.ts';
import type { AmMeasurement, Notes, RadioDetail } from '../measurement.ts';
import { eachPairBlock, type IqLevels, type IqOptions, iqBasics, isCarrierAtCentre, recordingFindings, scanLevels } from './iq.ts';
import { eachKeyed, type SignalBand, type Transmission } from './keying.ts';
import {
  audioAverager,
  audioBandwidth,
  findKeyed,
  gaussianPeak,
  MOST_NOISE_IN_PEAK,
  offFrequency,
  secondsOf,
  strongestLine,
} from './modulated.ts';
import { drawn, noiseDensity, occupiedEdges } from './radioSpectrum.ts';
import { radioDetail } from './ssb.ts';

/** Half of the 12 kHz channel whose envelope counts (contract). */
const ENVELOPE_HZ = 6000;
const TRANSITION_HZ = 2000;
const LEAST_RATE_HZ = 30_000;
/** Steps of the carrier's phase, for its exact frequency. */
const PHASE_STEP_S = 0.05;
/** Envelopes are counted up to this many times their mean. */
const MOST_TIMES_MEAN = 8;
const COUNTER_BINS = 1 << 17;

/** @throws NotMeasurable for a single channel; the signal's reason when aborted */
export async function measureAm(
  source: SampleSource,
  options: IqOptions = {},
): Promise<{ measurement: AmMeasurement; detail: RadioDetail }> {
  const levels = await scanLevels(source, options, [0, 0.2]);
  const { basics, notes } = iqBasics(source, levels);
  const bandOf = (map: Spectrum): SignalBand => ({ centreHz: strongestLine(map, options.carrierHz), halfWidthHz: ENVELOPE_HZ });
  const found = await findKeyed(source, options, levels, bandOf, [0.2, 0.5]);
  if (!found) return silent(basics, notes, levels, options.limits);
  const { transmissions, spectrum } = found;
  const coarse = strongestLine(spectrum, options.carrierHz ?? found.band.centreHz);
  const envelope = await demodulate(source, options, levels, transmissions, coarse);
  const density = noiseDensity(spectrum, coarse, [coarse - 6000, coarse + 6000]) ?? found.noiseDensity;
  const noisePeak = noiseInDepth(envelope.mean, density ?? 0, secondsOf(transmissions, source.sampleRateHz));
  const { positive } = envelope.depth;
  if (positive === null) notes.modulationDepth = 'There is no carrier to compare with.';
  else if (noisePeak > MOST_NOISE_IN_PEAK * positive) {
    notes.modulationDepth = `Noise-limited: an upper bound, noise alone reaches ${roughPercent(noisePeak)}.`;
  }
  const measurement = {
    kind: 'am' as const,
    ...basics,
    carrierOffsetHz: coarse + envelope.residualHz,
    occupiedBandwidthHz: occupied(spectrum, coarse, density, notes),
    modulationDepth: envelope.depth,
    modulationDepthUsual: envelope.usual,
    audioBandwidthHz: audioBandwidth(envelope.audio, ENVELOPE_HZ, notes),
    notes,
  };
  const isWeak = bandPower(spectrum, coarse - ENVELOPE_HZ, coarse + ENVELOPE_HZ) < LEAST_OVER_NOISE * (density ?? 0) * 2 * ENVELOPE_HZ;
  const roughness = envelope.mean > 0 ? source.codeStep / envelope.mean : 0;
  const evidence = { levels, isWeak, noisePeak: density === null ? null : noisePeak, cutOffShare: envelope.cutOffShare, roughness };
  return {
    measurement: { ...measurement, findings: findingsOf(measurement, evidence, options) },
    detail: { ...radioDetail(spectrum, null, density, coarse), audio: envelope.audio && drawn(envelope.audio, 0, ENVELOPE_HZ, 400) },
  };
}

const NOT_LONG_ENOUGH = 'There is no transmission in it that is long enough to measure.';

function silent(
  basics: ReturnType<typeof iqBasics>['basics'],
  notes: Notes,
  levels: IqLevels,
  own?: OwnLimits,
): { measurement: AmMeasurement; detail: RadioDetail } {
  for (const key of ['carrierOffsetHz', 'occupiedBandwidthHz', 'modulationDepth', 'modulationDepthUsual', 'audioBandwidthHz']) {
    notes[key] = NOT_LONG_ENOUGH;
  }
  return {
    measurement: {
      kind: 'am',
      ...basics,
      carrierOffsetHz: null,
      occupiedBandwidthHz: null,
      modulationDepth: NO_DEPTH,
      modulationDepthUsual: NO_DEPTH,
      audioBandwidthHz: null,
      notes,
      findings: worstFirst(recordingFindings(levels, own)),
    },
    detail: { mean: null, highest: null, noiseDb: null },
  };
}

const NO_DEPTH: AmMeasurement['modulationDepth'] = { positive: null, negative: null };

interface Envelope {
  /** Held peaks, as a peak-holding monitor shows them. */
  readonly depth: AmMeasurement['modulationDepth'];
  /** The same by the 99.9 and 0.1 percentiles. */
  readonly usual: AmMeasurement['modulationDepth'];
  /** Mean magnitude: the carrier. */
  readonly mean: number;
  /** Share of the time in which the carrier is as good as cut off. */
  readonly cutOffShare: Fraction;
  readonly audio: Spectrum | null;
  /** Carrier re where it was looked for. */
  readonly residualHz: Hertz;
}

/** Deeper than this the carrier is as good as cut off. */
const CUT_OFF: Fraction = 0.98;

async function demodulate(
  source: SampleSource,
  options: IqOptions,
  { kernel, block }: IqLevels,
  transmissions: readonly Transmission[],
  carrierHz: Hertz,
): Promise<Envelope> {
  const shape = {
    sampleRateHz: source.sampleRateHz,
    centreHz: carrierHz,
    halfWidthHz: ENVELOPE_HZ,
    transitionHz: TRANSITION_HZ,
    leastRateHz: LEAST_RATE_HZ,
    isByBlocks: true,
  };
  const rate = new DownConverter(kernel, shape).sampleRateHz;
  const step = source.sampleRateHz / rate;
  const eachBlock = async (
    share: readonly [number, number],
    use: (magnitudes: Float64Array, pairs: Complex, keyed: (use: (from: number, to: number) => void) => void) => void,
  ) => {
    const channel = new DownConverter(kernel, shape);
    let at = 0;
    const hear = ({ i, q }: Complex) => {
      const first = at;
      at += i.length;
      use(
        i.map((x, n) => Math.sqrt(x * x + q[n] * q[n])),
        { i, q },
        (each) => eachKeyed(transmissions, step, first, i.length, each),
      );
    };
    await eachPairBlock(source, block, options, share, () => hear(channel.push(block)));
    hear(channel.end());
  };
  let sum = 0;
  let count = 0;
  const phase = { i: [] as number[], q: [] as number[] };
  let held = { i: 0, q: 0, count: 0 };
  const phaseStep = Math.round(rate * PHASE_STEP_S);
  await eachBlock([0.5, 0.75], (magnitudes, { i, q }, keyed) =>
    keyed((from, to) => {
      for (let n = from; n < to; n++) {
        sum += magnitudes[n];
        held = { i: held.i + i[n], q: held.q + q[n], count: held.count + 1 };
        if (held.count < phaseStep) continue;
        phase.i.push(held.i);
        phase.q.push(held.q);
        held = { i: 0, q: 0, count: 0 };
      }
      count += to - from;
    }),
  );
  const mean = sum / count;
  if (!(mean > 0)) return { depth: NO_DEPTH, usual: NO_DEPTH, mean: 0, cutOffShare: 0, audio: null, residualHz: 0 };
  const counter = new LinearCounter(MOST_TIMES_MEAN, COUNTER_BINS);
  const averager = audioAverager(rate, transmissions, step);
  let [highest, lowest] = [-1, Infinity];
  await eachBlock([0.75, 1], (magnitudes, _, keyed) => {
    const relative = magnitudes.map((x) => x / mean - 1);
    averager.push(relative);
    keyed((from, to) => {
      const part = relative.subarray(from, to);
      counter.push(part);
      for (const x of part) {
        if (x > highest) highest = x;
        if (x < lowest) lowest = x;
      }
    });
  });
  const [high, low] = [counter.percentile(99.9), counter.percentile(0.1)];
  return {
    depth: { positive: highest, negative: -lowest },
    usual: { positive: high, negative: low === null ? null : -low },
    mean,
    cutOffShare: counter.shareBelow(-CUT_OFF),
    audio: averager.result()[0],
    residualHz: meanTurn(phase) / (2 * Math.PI * (phaseStep / rate)),
  };
}

/** Share of the carrier that noise in the channel reaches at its highest: half of its power lies along the carrier. */
const noiseInDepth = (mean: number, density: number, seconds: number): Fraction =>
  mean > 0 ? (Math.sqrt(density * ENVELOPE_HZ) * gaussianPeak(2 * ENVELOPE_HZ * seconds)) / mean : 0;

/** Mean turn between neighbours, radians: of all of them, weighted by their strength. */
function meanTurn({ i, q }: { i: readonly number[]; q: readonly number[] }): number {
  let re = 0;
  let im = 0;
  for (let n = 1; n < i.length; n++) {
    re += i[n] * i[n - 1] + q[n] * q[n - 1];
    im += q[n] * i[n - 1] - i[n] * q[n - 1];
  }
  return Math.atan2(im, re);
}

/** Sidebands that hold less than half a percent each leave the 99 % bandwidth at the carrier's own width. */
const LEAST_SIDEBAND_SHARE = 0.005;

function occupied(spectrum: Spectrum, carrierHz: Hertz, noise: number | null, notes: Notes): Hertz | null {
  const edges = occupiedEdges(spectrum, carrierHz, noise ?? 0);
  // A Hann window spreads a line over four bins.
  const isCarrierOnly = edges !== null && (carrierHz - edges[0] < 3 * spectrum.binHz || edges[1] - carrierHz < 3 * spectrum.binHz);
  if (edges && !isCarrierOnly) return edges[1] - edges[0];
  notes.occupiedBandwidthHz = `The modulation is too shallow for the sidebands to hold ${100 * LEAST_SIDEBAND_SHARE} % of the power each.`;
  return null;
}

interface Evidence {
  readonly levels: IqLevels;
  /** Share of the carrier that noise alone reaches; null where the noise is unknown. */
  readonly noisePeak: Fraction | null;
  readonly cutOffShare: Fraction;
  /** Size of one code re the carrier. */
  readonly roughness: Fraction;
  readonly isWeak: boolean;
}

/** With so little noise the lowest single moment tells whether the carrier is cut off; with more, how long it is; with most, nothing does. */
/** Under this much of carrier, voice and noise over the noise there is no telling. */
const LEAST_OVER_NOISE: Power = 4;
const LITTLE_NOISE: Fraction = 0.01;
const MOST_NOISE: Fraction = 0.2;

function findingsOf(
  numbers: Omit<AmMeasurement, 'findings'>,
  { levels, isWeak, noisePeak, cutOffShare, roughness }: Evidence,
  { carrierHz: statedHz, limits: own }: IqOptions,
): Finding[] {
  const { positive, negative } = numbers.modulationDepth;
  const isCentred = isCarrierAtCentre(levels, numbers.carrierOffsetHz, numbers, statedHz !== undefined);
  if (isWeak) return worstFirst(recordingFindings(levels, own, isCentred));
  const peaks = `${roughPercent(positive ?? 0)} up, ${roughPercent(negative ?? 0)} down on the highest peaks`;
  const isClear = noisePeak !== null && noisePeak <= LITTLE_NOISE;
  const isTold = noisePeak !== null && noisePeak <= MOST_NOISE && roughness <= 2 * (1 - CUT_OFF);
  const over = {
    code: 'over-modulated' as const,
    text: 'Over-modulated: the carrier is cut off on downward peaks, which splatters and distorts. Less mic gain in AM.',
  };
  return receiverFirst([
    ...recordingFindings(levels, own, isCentred),
    // An upper bound is enough to call a depth low.
    judge('underModulated', positive === null ? null : 100 * Math.max(positive, negative ?? 0), own, {
      code: 'under-modulated',
      text: 'Under-modulated: much carrier and little voice. More mic gain in AM (many radios have a dial of its own for it), or closer to the mic.',
      evidence: peaks,
    }),
    judge('carrierCutOff', isTold ? 100 * cutOffShare : null, own, {
      ...over,
      evidence: `cut off for ${roughPercent(cutOffShare)} of the time; ${peaks}`,
    }) ?? judge('overModulated', isClear && negative !== null ? 100 * Math.min(1, negative) : null, own, { ...over, evidence: peaks }),
    judge('amWidth', numbers.notes.occupiedBandwidthHz ? null : numbers.occupiedBandwidthHz, own, {
      code: 'wide',
      text: 'The signal is wide for AM.',
      evidence: `99 % of the power in ${hertz(numbers.occupiedBandwidthHz ?? 0)}`,
    }),
    offFrequency(statedHz, numbers.carrierOffsetHz, own),
  ]);
}
