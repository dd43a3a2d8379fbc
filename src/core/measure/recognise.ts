/** The product's own test signals, told from a recording whatever it was taken for. */
import { joined, resampled } from '../dsp/index.ts';
import { headOf, mixDown, type SampleSource } from '../files/index.ts';
import type { Fraction, Seconds } from '../units/index.ts';
import type { MeasurementKind } from './measurement.ts';
import { twoToneShare } from './radio/twoTone.ts';
import { locateResponseSignal } from './response/locate.ts';
import { mayHoldMarkers } from './response/markers.ts';

/** Own sweeps with their markers are shorter than this; longer recordings are not looked through. */
const LONGEST_SWEEP_S: Seconds = 90;
const SHORTEST_SWEEP_S: Seconds = 4;
const RATE_HZ = 16_000;
/** So much of two tones tells them. */
const TONES_S: Seconds = 6;
/** Of two steady tones nearly all power lies in the two lines; a voice is never so. */
const LEAST_TONE_SHARE: Fraction = 0.9;

/** The kind that a recording should be measured as instead; null when it is what it was taken for, as far as this tells. */
export async function recognised(kind: MeasurementKind, source: SampleSource): Promise<MeasurementKind | null> {
  const seconds = source.frames / source.sampleRateHz;
  if (kind === 'voice' && seconds >= SHORTEST_SWEEP_S && seconds <= LONGEST_SWEEP_S) {
    if (!(await mayHoldMarkers(source))) return null;
    const parts: Float64Array[] = [];
    for await (const block of source.blocks()) parts.push(mixDown(block).slice());
    const found = locateResponseSignal(resampled(joined(parts), RATE_HZ / source.sampleRateHz), RATE_HZ);
    return typeof found === 'string' ? null : 'response';
  }
  if ((kind === 'ssb' || kind === 'am' || kind === 'fm') && source.channels === 2) {
    return (await twoToneShare(headOf(source, TONES_S))) >= LEAST_TONE_SHARE ? 'two-tone' : null;
  }
  return null;
}
