/** The AM measurement: an I/Q recording of an over in, modulation depth and widths out. */
import type { SampleSource } from '../formats/samples.ts';
import { Channel } from '../signal/channel.ts';
import { LinearCounter } from '../signal/quantiles.ts';
import type { Spectrum } from '../signal/spectrum.ts';
import type { Hertz } from '../signal/units.ts';
import { eachPairBlock, type IqLevels, type IqOptions, iqBasics, recordingFindings, scanLevels } from './iq.ts';
import { hertz, judge, percent, worstFirst } from './judging.ts';
import type { OwnLimits } from './limits.ts';
import type { AmMeasurement, Finding, Notes, RadioDetail } from './measurement.ts';
import { audioAverager, audioBandwidth, offFrequency, type Stretch, stretchSpectrum, strongestLine } from './modulated.ts';
import { drawn, noiseDensity, occupiedEdges } from './radioSpectrum.ts';
import { radioDetail } from './ssb.ts';

/** The envelope is that of this low-pass (contract). */
const ENVELOPE_HZ = 12_000;
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
  const levels = await scanLevels(source, options, [0, 0.25]);
  const { basics, notes } = iqBasics(source, levels);
  const found = await stretchSpectrum(source, options, levels, [0.25, 0.5]);
  if (!found) return silent(basics, notes, levels, options.limits);
  const { stretch, spectrum } = found;
  const coarse = strongestLine(spectrum, options.carrierHz);
  const envelope = await demodulate(source, options, levels, stretch, coarse);
  const noise = noiseDensity(spectrum, coarse, [coarse - 6000, coarse + 6000]);
  const measurement = {
    kind: 'am' as const,
    ...basics,
    carrierOffsetHz: coarse + envelope.residualHz,
    occupiedBandwidthHz: occupied(spectrum, coarse, noise, notes),
    modulationDepth: envelope.depth,
    audioBandwidthHz: audioBandwidth(envelope.audio, ENVELOPE_HZ, notes),
    notes,
  };
  if (envelope.depth.positive === null) notes.modulationDepth = 'There is no carrier to compare with.';
  return {
    measurement: { ...measurement, findings: findingsOf(measurement, levels, options) },
    detail: { ...radioDetail(spectrum, null, noise, coarse), audio: envelope.audio && drawn(envelope.audio, 0, ENVELOPE_HZ / 2, 400) },
  };
}

function silent(
  basics: ReturnType<typeof iqBasics>['basics'],
  notes: Notes,
  levels: IqLevels,
  own?: OwnLimits,
): { measurement: AmMeasurement; detail: RadioDetail } {
  for (const key of ['carrierOffsetHz', 'occupiedBandwidthHz', 'modulationDepth', 'audioBandwidthHz']) {
    notes[key] = 'There is no transmission in it that is long enough to measure.';
  }
  return {
    measurement: {
      kind: 'am',
      ...basics,
      carrierOffsetHz: null,
      occupiedBandwidthHz: null,
      modulationDepth: { positive: null, negative: null },
      audioBandwidthHz: null,
      notes,
      findings: worstFirst(recordingFindings(levels, own)),
    },
    detail: { mean: null, highest: null, noiseDb: null },
  };
}

interface Envelope {
  readonly depth: AmMeasurement['modulationDepth'];
  readonly audio: Spectrum | null;
  /** Carrier re where it was looked for. */
  readonly residualHz: Hertz;
}

async function demodulate(
  source: SampleSource,
  options: IqOptions,
  { kernel, block }: IqLevels,
  { from, to }: Stretch,
  carrierHz: Hertz,
): Promise<Envelope> {
  const shape = {
    sampleRateHz: source.sampleRateHz,
    centreHz: carrierHz,
    halfWidthHz: ENVELOPE_HZ,
    transitionHz: TRANSITION_HZ,
    leastRateHz: LEAST_RATE_HZ,
  };
  const eachMagnitude = async (
    share: readonly [number, number],
    use: (magnitudes: Float64Array, i: Float64Array, q: Float64Array) => void,
  ) => {
    const channel = new Channel(kernel, shape);
    const step = source.sampleRateHz / channel.sampleRateHz;
    let at = 0;
    await eachPairBlock(source, block, options, share, () => {
      const { i, q } = channel.push(block);
      const [a, b] = [Math.max(0, Math.ceil(from / step) - at), Math.min(i.length, Math.floor(to / step) - at)];
      at += i.length;
      if (b <= a) return;
      const [ci, cq] = [i.subarray(a, b), q.subarray(a, b)];
      use(
        ci.map((x, n) => Math.hypot(x, cq[n])),
        ci,
        cq,
      );
    });
    return channel.sampleRateHz;
  };
  let sum = 0;
  let count = 0;
  const phase = { i: [] as number[], q: [] as number[] };
  let held = { i: 0, q: 0, count: 0 };
  const stepOf = (rate: Hertz) => Math.round(rate * PHASE_STEP_S);
  const rateOut = new Channel(kernel, shape).sampleRateHz;
  await eachMagnitude([0.5, 0.75], (magnitudes, i, q) => {
    for (let n = 0; n < magnitudes.length; n++) {
      sum += magnitudes[n];
      held = { i: held.i + i[n], q: held.q + q[n], count: held.count + 1 };
      if (held.count < stepOf(rateOut)) continue;
      phase.i.push(held.i);
      phase.q.push(held.q);
      held = { i: 0, q: 0, count: 0 };
    }
    count += magnitudes.length;
  });
  const mean = sum / count;
  if (!(mean > 0)) return { depth: { positive: null, negative: null }, audio: null, residualHz: 0 };
  const counter = new LinearCounter(MOST_TIMES_MEAN, COUNTER_BINS);
  const averager = audioAverager(rateOut);
  await eachMagnitude([0.75, 1], (magnitudes) => {
    const relative = magnitudes.map((x) => x / mean - 1);
    counter.push(relative);
    averager.push(relative);
  });
  const [high, low] = [counter.percentile(99.9), counter.percentile(0.1)];
  return {
    depth: { positive: high, negative: low === null ? null : -low },
    audio: averager.result()[0],
    residualHz: meanTurn(phase) / (2 * Math.PI * (stepOf(rateOut) / rateOut)),
  };
}

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

function findingsOf(
  numbers: Omit<AmMeasurement, 'findings'>,
  levels: IqLevels,
  { carrierHz: statedHz, limits: own }: IqOptions,
): Finding[] {
  const { positive, negative } = numbers.modulationDepth;
  return worstFirst([
    ...recordingFindings(levels, own),
    judge('underModulated', positive === null ? null : 100 * positive, own, {
      code: 'under-modulated',
      text: 'Under-modulated: much carrier and little voice. More mic gain in AM (many radios have a dial of its own for it), or closer to the mic.',
      evidence: `${percent(positive ?? 0)} up, ${percent(negative ?? 0)} down`,
    }),
    judge('overModulated', negative === null ? null : 100 * negative, own, {
      code: 'over-modulated',
      text: 'Over-modulated: the carrier is cut off on downward peaks, which splatters and distorts. Less mic gain in AM.',
      evidence: `${percent(positive ?? 0)} up, ${percent(negative ?? 0)} down`,
    }),
    judge('amWidth', numbers.occupiedBandwidthHz, own, {
      code: 'wide',
      text: 'The signal is wide for AM.',
      evidence: `99 % of the power in ${hertz(numbers.occupiedBandwidthHz ?? 0)}`,
    }),
    offFrequency(statedHz, numbers.carrierOffsetHz, own),
  ]);
}
