/**
 * The response measurement: the recording of a test signal that went through a transmitter and a second receiver in,
 * curve, edges and distortion out. Unknown delay, mistuning and clock error are found and taken off first.
 */
import { type CurvePoint, curveAt } from '../../curve/index.ts';
import {
  analytic,
  bandPower,
  ClippingMeter,
  clippedShare,
  growthSeconds,
  median,
  resampled,
  responseSweep,
  responseSweepSamples,
  shifted,
} from '../../dsp/index.ts';
import { mixDown, type SampleSource } from '../../files/index.ts';
import type { OwnLimits } from '../../findings/index.ts';
import { type Decibels, dbToPower, type Fraction, type Hertz, type Power, powerToDb, type Seconds } from '../../units/index.ts';
import type { Notes, ResponseMeasurement } from '../measurement.ts';
import { edgesOf, middleLevel } from '../passband.ts';
import { NotMeasurable } from '../radio/iq.ts';
import { speechSpectrum } from '../voice/voice.ts';
import { walk } from '../walk.ts';
import { CURVE_FREQUENCIES, curveOf, deconvolve, ORDERS, POINTS_AN_OCTAVE, type Response } from './deconvolve.ts';
import { alignSweep } from './foreign.ts';
import { locateResponseSignal, type Missing } from './locate.ts';
import { MIDDLE_HZ, responseFindings, rippleIn } from './responseFindings.ts';

/** Everything is worked out at this rate; the test signal ends at 6 kHz. */
const RATE_HZ = 16_000;
/** A whole recording is held in memory: five minutes, and no more than 160 MB of samples. */
const LONGEST_S = 300;
const MOST_SAMPLES = 20_000_000;

/** Reference, curves to subtract, and how the recording is read. */
export interface ResponseOptions {
  readonly channel?: number;
  /** The signal that was sent, when it is not the product's own. */
  readonly reference?: SampleSource;
  /** Curves to take off the result: of the receiver, or of the microphone. */
  readonly subtract?: readonly (readonly CurvePoint[])[];
  readonly limits?: OwnLimits;
  readonly onProgress?: (share: Fraction) => void;
  readonly signal?: AbortSignal;
}

/** What is wrong with a recording that should hold the product's own signal. */
const MISSING: Record<Missing, string> = {
  'no signal':
    'No test signal was found in this recording. Play the one that Dial Tune makes (sweep), or name the signal that was sent as the reference.',
  'no beginning': 'The recording begins after the test signal did: its opening marker is missing. Start recording first, then play it.',
  'no end': 'The recording ends before the test signal does: its closing marker is missing.',
  'other length': 'The two markers are not as far apart as any test signal has them: something was cut out of it, or samples were lost.',
  'sweeps differ': 'The two sweeps in this recording are unlike each other: something disturbed one of them, or samples were lost.',
};

/** @throws NotMeasurable when the recording does not hold what is needed, saying what is missing */
export async function measureResponse(source: SampleSource, options: ResponseOptions = {}): Promise<{ measurement: ResponseMeasurement }> {
  if (options.channel !== undefined && options.channel > source.channels)
    throw new RangeError(`Channel ${options.channel} does not exist; this file has ${source.channels}.`);
  const { samples, clipped, durationS, nonFinite } = await readWhole(source, options);
  const notes: Notes = {};
  if (source.warnings.length > 0) notes.durationS = source.warnings.join(' ');
  if (nonFinite > 0) notes.samples = `${nonFinite} samples were not finite numbers and were read as silence.`;
  const found = options.reference ? await byReference(source, samples, options, options.reference, notes) : byOwnSignal(samples, notes);
  options.onProgress?.(0.95);
  const off = (hz: Hertz) => (options.subtract ?? []).reduce((sum, curve) => sum + curveAt(curve, hz), 0);
  const gain = (hz: Hertz): Power => found.gain(hz) * dbToPower(-off(hz));
  const curve = curveOf(gain, found.highestHz);
  const passbandHz = passbandOf(curve, notes);
  // Before anything is taken off: a subtracted curve changes signal and noise alike.
  noteNoise(found, notes);
  const measurement = {
    kind: 'response' as const,
    durationS,
    sampleRateHz: source.sampleRateHz,
    clippedShare: clipped,
    curve,
    passbandHz,
    rippleDb: rippleIn(curve, MIDDLE_HZ),
    ...harmonics(found, passbandHz, notes),
    mistuneHz: found.mistuneHz,
    clockPpm: found.clockPpm,
    levelDriftDb: found.levelDriftDb,
    notes,
  };
  return { measurement: { ...measurement, findings: responseFindings(measurement, options.limits) } };
}

/** A curve that was measured elsewhere, with the numbers that a curve alone can tell. */
export function responseOfCurve(
  points: readonly CurvePoint[],
  { subtract = [], limits }: Pick<ResponseOptions, 'subtract' | 'limits'> = {},
): ResponseMeasurement {
  const off = (hz: Hertz) => subtract.reduce((sum, curve) => sum + curveAt(curve, hz), 0);
  const zero = curveAt(points, 1000) - off(1000);
  const curve = points.map(([hz, level]): CurvePoint => [hz, level - off(hz) - zero]);
  const none = 'A curve alone does not tell it.';
  const notes: Notes = Object.fromEntries(
    ['durationS', 'distortionDb', 'harmonicsDb', 'mistuneHz', 'clockPpm', 'levelDriftDb'].map((key) => [key, none]),
  );
  const measurement = {
    kind: 'response' as const,
    durationS: 0,
    sampleRateHz: 0,
    clippedShare: 0,
    curve,
    passbandHz: passbandOf(curve, notes),
    rippleDb: rippleIn(curve, MIDDLE_HZ),
    distortionDb: null,
    harmonicsDb: null,
    mistuneHz: null,
    clockPpm: null,
    levelDriftDb: null,
    notes,
  };
  return { ...measurement, findings: responseFindings(measurement, limits) };
}

interface Found {
  readonly gain: (hz: Hertz) => Power;
  readonly responses: readonly Response[];
  readonly hasHarmonics: boolean;
  readonly highestHz: Hertz;
  readonly mistuneHz: Hertz | null;
  readonly clockPpm: number | null;
  readonly levelDriftDb: Decibels | null;
}

async function readWhole(source: SampleSource, options: ResponseOptions) {
  const most = Math.min(LONGEST_S, MOST_SAMPLES / source.sampleRateHz);
  if (source.frames / source.sampleRateHz > most) {
    throw new NotMeasurable(
      `This recording is ${(source.frames / source.sampleRateHz / 60).toFixed(1)} minutes long; cut it to the test signal (${(most / 60).toFixed(1)} minutes at most at this rate).`,
    );
  }
  const whole = new Float64Array(source.frames);
  const meters = Array.from({ length: source.channels }, () => new ClippingMeter(source.fullScale));
  let at = 0;
  const nonFinite = await walk(source, { blocks: source.blocks }, options, [0, 0.5], (block, first) => {
    for (const [c, meter] of meters.entries()) meter.push(block[c]);
    whole.set(mixDown(block, options.channel), first);
    at = first + block[0].length;
    return block[0].length;
  });
  const samples = resampled(whole.subarray(0, at), RATE_HZ / source.sampleRateHz);
  options.onProgress?.(0.7);
  return { samples, clipped: clippedShare(meters), durationS: at / source.sampleRateHz, nonFinite };
}

/** A recording without its mistuning. */
const unshifted = (samples: Float64Array, hz: Hertz): Float64Array => shifted(analytic(samples), RATE_HZ, -hz).i;

/** Samples on each side of a sweep that are looked at too: delays, ringing, harmonics of its end. */
const MARGIN = Math.round(0.4 * RATE_HZ);

/** The response of a sweep that begins at `beginS` of a recording without mistuning or clock error. */
function responseAt(sent: Float64Array, straight: Float64Array, beginS: Seconds, growthS: Seconds | null): Response {
  const padded = new Float64Array(sent.length + 2 * MARGIN);
  padded.set(sent, MARGIN);
  const from = Math.round(beginS * RATE_HZ) - MARGIN;
  const received = Float64Array.from(padded, (_, n) => straight[from + n] ?? 0);
  return deconvolve(padded, received, RATE_HZ, growthS);
}

function byOwnSignal(samples: Float64Array, notes: Notes): Found {
  const located = locateResponseSignal(samples, RATE_HZ);
  if (typeof located === 'string') throw new NotMeasurable(MISSING[located]);
  const { firstS, secondS, sweepSeconds, mistuneHz, clockPpm } = located;
  const stretch = 1 + clockPpm * 1e-6;
  // In step with what was sent: the recording's clock first, then its tuning.
  const straight = unshifted(resampled(samples, 1 / stretch), mistuneHz);
  const sent = responseSweepSamples(sweepSeconds, RATE_HZ);
  const growth = growthSeconds(responseSweep(sweepSeconds));
  const responses = [firstS, secondS].map((begin) => responseAt(sent, straight, begin / stretch, growth));
  const gain = (hz: Hertz) => (responses[0].gain(hz) + responses[1].gain(hz)) / 2;
  const levelDriftDb = median(CURVE_FREQUENCIES.filter(inMiddle).map((hz) => powerToDb(responses[1].gain(hz) / responses[0].gain(hz))));
  if (Math.abs(levelDriftDb) > 0.5)
    notes.curve = `The level changed by ${levelDriftDb.toFixed(1)} dB between the two sweeps: switch the receiver's AGC off or slow, and measure again.`;
  return { gain, responses, hasHarmonics: true, highestHz: 6000, mistuneHz, clockPpm, levelDriftDb };
}

const inMiddle = (hz: Hertz) => hz >= MIDDLE_HZ[0] && hz <= MIDDLE_HZ[1];

async function byReference(
  source: SampleSource,
  samples: Float64Array,
  options: ResponseOptions,
  reference: SampleSource,
  notes: Notes,
): Promise<Found> {
  const { samples: sent } = await readWhole(reference, { signal: options.signal });
  notes.clockPpm = 'A single foreign signal does not tell a clock error from the filter’s own delay.';
  notes.levelDriftDb = 'It needs the signal that Dial Tune makes, which repeats its sweep.';
  const highestHz = Math.min(6000, 0.45 * source.sampleRateHz, 0.45 * reference.sampleRateHz);
  const aligned = alignSweep(sent, samples, RATE_HZ);
  if (aligned === 'not found') {
    throw new NotMeasurable('The reference signal was not found in this recording: it is missing, cut, or another one.');
  }
  if (aligned === 'no sweep') return bySpectra(source, reference, options, highestHz, notes);
  const { delayS, mistuneHz, growthS } = aligned;
  const straight = unshifted(samples, mistuneHz);
  const from = Math.round(delayS * RATE_HZ);
  if (from + sent.length > samples.length + MARGIN / 4 || from < -MARGIN / 4) {
    notes.curve = 'The recording does not hold the whole of the reference signal: the curve is right only where both were heard.';
  }
  const response = responseAt(sent, straight, delayS, growthS);
  return {
    gain: response.gain,
    responses: [response],
    hasHarmonics: growthS !== null,
    highestHz,
    mistuneHz,
    clockPpm: null,
    levelDriftDb: null,
  };
}

/** For noises and tones: the ratio of two long-term spectra, which needs no alignment. */
async function bySpectra(
  source: SampleSource,
  reference: SampleSource,
  options: ResponseOptions,
  highestHz: Hertz,
  notes: Notes,
): Promise<Found> {
  const [got, sent] = [await speechSpectrum(source, options.signal), await speechSpectrum(reference, options.signal)];
  if (!got || !sent) throw new NotMeasurable('One of the two recordings is silent.');
  notes.mistuneHz = 'The reference is no sweep: a mistuned receiver can’t be told from it.';
  const half = 2 ** (0.5 / POINTS_AN_OCTAVE);
  const gain = (hz: Hertz) => {
    const below = bandPower(sent, hz / half, hz * half);
    return below > 0 ? bandPower(got, hz / half, hz * half) / below : 0;
  };
  return { gain, responses: [], hasHarmonics: false, highestHz, mistuneHz: null, clockPpm: null, levelDriftDb: null };
}

function passbandOf(curve: readonly CurvePoint[], notes: Notes): ResponseMeasurement['passbandHz'] {
  const middle = middleLevel((hz) => curveAt(curve, hz), curve[curve.length - 1][0]);
  if (middle === null) return null;
  const edges = edgesOf((hz) => curveAt(curve, hz), middle, [curve[0][0], curve[curve.length - 1][0]]);
  if (edges.includes(null)) notes.passbandHz = 'No -6 dB edge was found on the side that is null.';
  return edges;
}

/** Where the response has sunk into what arrives when nothing was sent. */
function noteNoise({ gain, responses, hasHarmonics }: Found, notes: Notes): void {
  if (!hasHarmonics) return;
  const noise = (hz: Hertz) => responses.reduce((sum, response) => sum + response.noise(hz), 0) / responses.length;
  const hidden = CURVE_FREQUENCIES.filter((hz) => gain(hz) < 2 * noise(hz));
  if (hidden.length === 0) return;
  const first = CURVE_FREQUENCIES.find((hz) => !hidden.includes(hz));
  const last = [...CURVE_FREQUENCIES].reverse().find((hz) => !hidden.includes(hz));
  const words =
    first && last
      ? `Noise-limited below ${first.toFixed(0)} and above ${last.toFixed(0)} Hz: upper bounds there.`
      : 'Noise-limited throughout.';
  notes.curve = notes.curve ? `${notes.curve} ${words}` : words;
}

/** Harmonics re the fundamental, over the fundamentals whose harmonic still falls inside the passband. */
function harmonics(
  { responses, hasHarmonics }: Found,
  passband: ResponseMeasurement['passbandHz'],
  notes: Notes,
): Pick<ResponseMeasurement, 'distortionDb' | 'harmonicsDb'> {
  const [low, high] = [passband?.[0] ?? CURVE_FREQUENCIES[0], passband?.[1] ?? 5000];
  if (!hasHarmonics) {
    notes.distortionDb = 'The reference is no exponential sweep: harmonics do not come apart.';
    return { distortionDb: null, harmonicsDb: null };
  }
  const each = ORDERS.flatMap((order): [number, Decibels, Power, Power][] => {
    const used = CURVE_FREQUENCIES.filter((hz) => hz >= low && hz * order <= high);
    if (used.length < 3) return [];
    const over = (power: (response: Response, hz: Hertz) => Power) =>
      responses.reduce((sum, response) => sum + used.reduce((all, hz) => all + power(response, hz), 0), 0) / used.length / responses.length;
    const fundamental = over((response, hz) => response.gain(hz));
    const harmonic = over((response, hz) => response.harmonic(order, order * hz));
    const noise = over((response, hz) => response.noise(order * hz));
    return [[order, powerToDb(harmonic / fundamental), harmonic / fundamental, noise / fundamental]];
  });
  if (each.length === 0) {
    notes.distortionDb = `The passband from ${low.toFixed(0)} to ${high.toFixed(0)} Hz leaves no room for a harmonic.`;
    return { distortionDb: null, harmonicsDb: null };
  }
  const total = each.reduce((sum, [, , power]) => sum + power, 0);
  const noise = each.reduce((sum, [, , , power]) => sum + power, 0);
  if (noise > total / 2) notes.distortionDb = 'Noise-limited: an upper bound, noise explains more than half of it.';
  return { distortionDb: powerToDb(total), harmonicsDb: each.map(([order, level]) => [order, level]) };
}
