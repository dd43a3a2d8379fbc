/**
 * The signals to play into the mic socket. The response signal is a sweep sent twice between two marker chirps:
 * the markers tell where it is and how far the receiver is mistuned, the two sweeps tell the clock error.
 */
import { type Decibels, dbToAmplitude, type Hertz, type Seconds } from '../../units/index.ts';
import { nextPowerOfTwo } from '../spectrum/spectrum.ts';
import { forwardTransform, inverseTransform } from '../spectrum/transform.ts';
import { gaussian, seededRandom } from '../statistics/random.ts';
import { exponentialSweep, linearChirp, type Sweep } from './sweep.ts';

/** The signals that can be made. */
export const TEST_SIGNALS = ['sweep', 'two-tone', 'stepped', 'pink', 'speech-noise'] as const;
/** One of them. */
export type TestSignal = (typeof TEST_SIGNALS)[number];

/** Layout of the response signal in seconds; `seconds` of the sweep may differ. */
export const RESPONSE_SIGNAL = {
  lead: 0.5,
  marker: { lowHz: 500, highHz: 2500, seconds: 0.5 },
  gap: 0.5,
  between: 1,
  sweep: { lowHz: 50, highHz: 6000 },
  usualSeconds: 6,
  leastSeconds: 3,
  mostSeconds: 30,
} as const;
const MARKER_FADE_S = 0.02;
const SWEEP_FADE_S = 0.02;

/** The sweep of the response signal. */
export const responseSweep = (seconds: Seconds): Sweep => ({ ...RESPONSE_SIGNAL.sweep, seconds });

/** From the begin of the first marker to the begin of each part. */
export function responseTimes(seconds: Seconds) {
  const { marker, gap, between } = RESPONSE_SIGNAL;
  const first = marker.seconds + gap;
  const second = first + seconds + between;
  return { first, second, closing: second + seconds + gap };
}

/** The chirp that the response signal begins with, by which it is found. @returns samples, full scale 1 */
export const openingMarker = (rateHz: Hertz): Float64Array => linearChirp(RESPONSE_SIGNAL.marker, rateHz, MARKER_FADE_S);

/** The chirp at its end: the two together tell shift and clock. @returns samples, full scale 1 */
export function closingMarker(rateHz: Hertz): Float64Array {
  const { lowHz, highHz, seconds } = RESPONSE_SIGNAL.marker;
  return linearChirp({ lowHz: highHz, highHz: lowHz, seconds }, rateHz, MARKER_FADE_S);
}

/** One sweep of the response signal with its fades. @returns samples, full scale 1 */
export const responseSweepSamples = (seconds: Seconds, rateHz: Hertz): Float64Array =>
  exponentialSweep(responseSweep(seconds), rateHz, SWEEP_FADE_S);

/** Which signal, how long, how loud, at which rate. */
export interface TestSignalShape {
  readonly signal: TestSignal;
  readonly rateHz: Hertz;
  /** Length of a sweep, or of the whole for the others. */
  readonly seconds: Seconds;
  /** Peak re full scale. */
  readonly levelDb: Decibels;
}

/** Steps of the stepped tones: third octaves of the voice, to the nearest ten hertz. */
export const STEPPED_TONES: readonly Hertz[] = [
  100, 160, 200, 250, 320, 400, 500, 630, 800, 1000, 1250, 1600, 2000, 2500, 2700, 3000, 3150, 4000,
];
/** The two tones that transmitters are tested with; not harmonically related. Common practice. */
export const TWO_TONES: readonly [Hertz, Hertz] = [700, 1900];

/** Samples of a test signal, one channel, peak at `levelDb`. */
export function testSignal(shape: TestSignalShape): Float64Array {
  const samples = MAKERS[shape.signal](shape);
  const peak = samples.reduce((most, x) => Math.max(most, Math.abs(x)), 0);
  const gain = dbToAmplitude(shape.levelDb) / peak;
  return samples.map((x) => x * gain);
}

const MAKERS: Record<TestSignal, (shape: TestSignalShape) => Float64Array> = {
  sweep({ rateHz, seconds }) {
    const { lead } = RESPONSE_SIGNAL;
    const { first, second, closing } = responseTimes(seconds);
    const parts: [Seconds, Float64Array][] = [
      [0, openingMarker(rateHz)],
      [first, responseSweepSamples(seconds, rateHz)],
      [second, responseSweepSamples(seconds, rateHz)],
      [closing, closingMarker(rateHz)],
    ];
    const whole = new Float64Array(Math.round((2 * lead + closing + RESPONSE_SIGNAL.marker.seconds) * rateHz));
    for (const [at, part] of parts) whole.set(part, Math.round((lead + at) * rateHz));
    return whole;
  },
  'two-tone': ({ rateHz, seconds }) =>
    Float64Array.from({ length: Math.round(seconds * rateHz) }, (_, n) => {
      const [a, b] = TWO_TONES.map((hz) => Math.sin((2 * Math.PI * hz * n) / rateHz));
      return a + b;
    }),
  stepped({ rateHz, seconds }) {
    const each = Math.floor((seconds * rateHz) / STEPPED_TONES.length);
    const edge = Math.min(each / 4, 0.02 * rateHz);
    return Float64Array.from({ length: each * STEPPED_TONES.length }, (_, n) => {
      const at = n % each;
      const fade = Math.min(1, Math.min(at, each - at) / edge);
      return fade * Math.sin((2 * Math.PI * STEPPED_TONES[Math.floor(n / each)] * at) / rateHz);
    });
  },
  pink: ({ rateHz, seconds }) => shapedNoise(rateHz, seconds, (hz) => (hz < 40 || hz > 6000 ? 0 : 1 / Math.sqrt(hz))),
  'speech-noise': ({ rateHz, seconds }) => shapedNoise(rateHz, seconds, speechAmplitude),
};

/**
 * Amplitude of ordinary speech: flat to 500 Hz, then falling by 8 dB an octave, which follows the long-term
 * spectrum of Byrne et al. 1994 within 4 dB.
 */
function speechAmplitude(hz: Hertz): number {
  if (hz < 80 || hz > 6000) return 0;
  return hz < 500 ? 1 : (500 / hz) ** 1.35;
}

/** Gaussian noise of a given spectrum; the same every time. */
function shapedNoise(rateHz: Hertz, seconds: Seconds, amplitude: (hz: Hertz) => number): Float64Array {
  const length = Math.round(seconds * rateHz);
  const size = nextPowerOfTwo(length);
  const normal = gaussian(seededRandom(1900));
  const white = forwardTransform(
    size,
    Float64Array.from({ length: size }, () => normal()),
  );
  const shape = (k: number) => amplitude((Math.min(k, size - k) * rateHz) / size);
  return inverseTransform({ re: white.re.map((x, k) => x * shape(k)), im: white.im.map((x, k) => x * shape(k)) }).i.slice(0, length);
}
