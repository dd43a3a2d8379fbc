/** One door to all kinds of measurement of a recording. */
import type { CurvePoint } from '../curve/index.ts';
import { type ByteSource, headOf, openWav, parseCurve, parseScopeTrace, type SampleSource, startsLikeWav } from '../files/index.ts';
import type { OwnLimits } from '../findings/index.ts';
import type { Sideband } from '../modem/index.ts';
import { FormatError } from '../schema/index.ts';
import type { Fraction, Hertz } from '../units/index.ts';
import type { Measurement, MeasurementDetail, MeasurementKind } from './measurement.ts';
import { measureTrace } from './power/power.ts';
import { measureAm } from './radio/am.ts';
import { measureFm } from './radio/fm.ts';
import { NotMeasurable } from './radio/iq.ts';
import { proposeCarrier } from './radio/proposeCarrier.ts';
import { measureSsb, withoutCarrier } from './radio/ssb.ts';
import { measureTwoTone } from './radio/twoTone.ts';
import { recognised } from './recognise.ts';
import { measureResponse, responseOfCurve } from './response/response.ts';
import { measureVoice } from './voice/voice.ts';
import { withDetail } from './withDetail.ts';

/** What a measurement can be told; each kind takes what concerns it. */
export interface MeasureSettings {
  /** ssb, am, fm, two-tone: offset of the carrier from the file's centre. */
  readonly carrierHz?: Hertz;
  /** ssb */
  readonly sideband?: Sideband;
  /** ssb, am, fm, two-tone: I and Q change places. */
  readonly isSwapped?: boolean;
  /** voice, response: channel to measure, counted from 1. */
  readonly channel?: number;
  /** power: what the volts stand across; 50 when left out. */
  readonly loadOhms?: number;
  /** voice, ssb: what the card's filter lets through, in audio frequencies. */
  readonly passbandHz?: readonly [Hertz, Hertz];
}

/** Settings of the measurement, own limits, progress, a signal to stop. */
export interface MeasureOptions extends MeasureSettings {
  /** voice, ssb: the voice at the microphone; response: the signal that was sent. */
  readonly reference?: SampleSource;
  /** response */
  readonly subtract?: readonly (readonly CurvePoint[])[];
  readonly limits?: OwnLimits;
  /** The product's own test signals are measured as what they are, whatever the kind says. */
  readonly recognises?: boolean;
  /** ssb without a given carrier: look for it in the voice rather than take the file's centre. */
  readonly proposesCarrier?: boolean;
  readonly onProgress?: (share: Fraction) => void;
  readonly signal?: AbortSignal;
}

/** The numbers, and what drawings need. */
export interface MeasureResult {
  readonly measurement: Measurement;
  readonly detail: MeasurementDetail | null;
}

type Measure = (source: SampleSource, options: MeasureOptions) => Promise<MeasureResult>;

/** Kinds that are told from samples; traces are text. */
const BY_KIND: Record<Exclude<MeasurementKind, 'power'>, Measure> = {
  voice: measureVoice,
  ssb: ssbWithCarrier,
  am: measureAm,
  fm: measureFm,
  'two-tone': measureTwoTone,
  response: async (source, options) => ({ ...(await measureResponse(source, options)), detail: null }),
};

/** So much talk tells a carrier as well as more would. */
const PROPOSED_FROM_S = 40;
/** A proposal less sure than this is not followed: somebody is asked, and nothing is measured silently. */
const LEAST_CONFIDENCE: Fraction = 0.8;

/** SSB with the carrier that was given, or the one its voice tells when that is asked for. */
async function ssbWithCarrier(source: SampleSource, options: MeasureOptions): Promise<MeasureResult> {
  if (options.carrierHz !== undefined || !options.proposesCarrier) {
    const carrierFrom = { how: options.carrierHz === undefined ? ('assumed' as const) : ('given' as const), confidence: null };
    const measured = await measureSsb(source, options);
    return withDetail(measured.measurement, () => ({ ...measured.detail, carrierFrom }));
  }
  const half = (from: number) => (share: number) => options.onProgress?.(from + share / 2);
  const proposal = await proposeCarrier(headOf(source, PROPOSED_FROM_S), options.sideband ?? 'usb', { ...options, onProgress: half(0) });
  const isSure = proposal !== null && proposal.confidence >= LEAST_CONFIDENCE;
  const carrierHz = proposal ? Math.round(proposal.carrierHz) : 0;
  const measured = await measureSsb(source, { ...options, carrierHz, onProgress: half(0.5) });
  const carrierFrom = { how: isSure ? ('proposed' as const) : ('asked' as const), confidence: proposal?.confidence ?? null };
  const measurement = isSure ? measured.measurement : withoutCarrier(measured.measurement);
  return withDetail(measurement, () => ({ ...measured.detail, carrierFrom }));
}

/**
 * Measures a recording as a kind.
 * @throws NotMeasurable when it does not hold what that kind needs; RangeError for a channel it does not have
 */
export async function measureRecording(
  kind: Exclude<MeasurementKind, 'power'>,
  source: SampleSource,
  options: MeasureOptions = {},
): Promise<MeasureResult> {
  refuseOutside(options.carrierHz, source.sampleRateHz);
  return BY_KIND[kind](source, options);
}

/** @throws NotMeasurable for a carrier that a file of this rate can't hold */
export function refuseOutside(carrierHz: Hertz | undefined, sampleRateHz: Hertz): void {
  if (carrierHz === undefined || Math.abs(carrierHz) < sampleRateHz / 2) return;
  throw new NotMeasurable(`A carrier at ${carrierHz} Hz lies outside this file, which reaches ${sampleRateHz / 2} Hz to each side.`);
}

const LARGEST_TEXT = 64 << 20;

async function textOf(bytes: ByteSource): Promise<string> {
  if (bytes.size > LARGEST_TEXT)
    throw new FormatError(`The file is too large for a text of numbers: ${bytes.size} bytes; ${LARGEST_TEXT} are the most.`);
  return new TextDecoder('utf-8', { fatal: false }).decode(await bytes.read(0, bytes.size));
}

/**
 * Measures a file as a kind: a recording, a response curve as text (response), or a scope trace as text (power).
 * @throws FormatError, NotMeasurable
 */
export async function measureFile(kind: MeasurementKind, bytes: ByteSource, options: MeasureOptions = {}): Promise<MeasureResult> {
  if (kind === 'power') return measureTrace(parseScopeTrace(await textOf(bytes)), options.loadOhms);
  if (kind === 'response' && bytes.size > 0 && !startsLikeWav(await bytes.read(0, 4))) {
    return { measurement: responseOfCurve(parseCurve(await textOf(bytes)), options), detail: null };
  }
  const source = await openWav(bytes);
  const told = options.recognises ? await recognised(kind, source) : null;
  return measureRecording((told ?? kind) as Exclude<MeasurementKind, 'power'>, source, options);
}
