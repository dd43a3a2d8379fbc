/** Kinds of evidence in the operators' words. */
import type { Mode } from '../rig/index.ts';
import type { MeasurementKind } from './measurement.ts';

/** Short names, for a list. */
export const KIND_NAMES: Record<MeasurementKind, string> = {
  voice: 'audio',
  ssb: 'SSB, I/Q',
  am: 'AM, I/Q',
  fm: 'FM, I/Q',
  'two-tone': 'two tones, I/Q',
  response: 'response',
  power: 'scope trace',
};

/** What each kind takes, for a picker. */
export const KIND_NOTES: Record<MeasurementKind, string> = {
  voice: 'a voice: receiver audio or the mic',
  ssb: 'a wide recording of the signal, I and Q in two channels',
  am: 'the same of an AM signal',
  fm: 'the same of an FM signal',
  'two-tone': 'the same of two steady tones',
  response: 'the test sweep as it came back, or a curve as CSV',
  power: 'time and volts across the load, CSV',
};

/** The radio kind that goes with a card's mode. */
export const radioKindOf = (mode: Mode): MeasurementKind => (mode === 'am' || mode === 'fm' ? mode : 'ssb');
