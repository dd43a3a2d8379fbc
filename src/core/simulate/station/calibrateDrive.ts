/**
 * What the mic gain dial of a real radio does is not known, but its ALC meter was read on an over: the model's gain is
 * set so that the same voice on the same card gives that reading.
 */
import type { Card } from '../../rig/index.ts';
import type { Decibels, Fraction } from '../../units/index.ts';
import { parametersOf, type RadioTruth } from '../transmitter/parameters.ts';
import { transmit, voiceGainDb } from '../transmitter/transmitter.ts';
import type { StationSetting, Voice } from './voiceAndStation.ts';

/** Halvings of the range: to half a decibel. */
const STEPS = 7;
const FARTHEST_DB: Decibels = 30;
const NEARLY: Fraction = 0.9;
/** A meter that hardly moves says that the level stays at or below the ALC's threshold, not how far below. */
const AT_THRESHOLD: Fraction = 0.02;

/** @param reading share of the meter's scale. @returns the radio with its gain law moved */
export function calibrateDrive(voice: Voice, station: StationSetting, card: Card, reading: Fraction): RadioTruth {
  const { radio } = station;
  const gain = voiceGainDb(voice.samples, voice.rateHz);
  if (gain === null) return radio;
  const parameters = parametersOf(station.rig, card, radio);
  if (!Number.isFinite(parameters.micGainDb)) return radio;
  const options = { inputRateHz: voice.rateHz, voiceGainDb: gain, microphone: station.microphone, upTo: 'alc' as const };
  const readingAt = (db: Decibels): Fraction => {
    const driven = { ...parameters, micGainDb: parameters.micGainDb + db };
    return transmit(voice.samples, driven, options).transmitter.alc.reading().usual ?? 0;
  };
  if (reading <= AT_THRESHOLD && readingAt(0) <= AT_THRESHOLD) return radio;
  let [low, high] = [-FARTHEST_DB, FARTHEST_DB];
  // A processor holds the level into the ALC: near the most that it lets through, the reading tells little of the gain.
  const goal = Math.min(Math.max(reading, AT_THRESHOLD), NEARLY * readingAt(high));
  for (let k = 0; k < STEPS; k++) {
    const middle = (low + high) / 2;
    if (readingAt(middle) < goal) low = middle;
    else high = middle;
  }
  const { micGain } = radio;
  return { ...radio, micGain: { ...micGain, middleDb: micGain.middleDb + (low + high) / 2 } };
}
