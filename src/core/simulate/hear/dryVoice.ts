/**
 * The operator's own voice, as far as a recording of an over tells it: the equalizer and the microphone that it was
 * made with taken out again. What lies outside the passband of that over is not in the recording and stays missing.
 */
import { type Biquad, BiquadChain, createKernel, curveTaps, FftFilter, inverseBiquad, joined } from '../../dsp/index.ts';
import { bandCentre, bandFilter, type Card, effective, type Microphone, type MicrophoneUse, type RigProfile } from '../../rig/index.ts';
import type { Decibels, Hertz } from '../../units/index.ts';
import { microphoneResponseDb } from '../transmitter/microphone.ts';

/** A microphone's curve is undone by no more than this: beyond it only noise would come up. */
const MOST_UNDONE_DB: Decibels = 12;
const TAPS_S = 0.04;
const HIGHEST_CENTRE = 0.45;

/** What a voice went through before it was recorded. */
export interface HeardWith {
  readonly rig: RigProfile;
  readonly card: Card;
  /** Null when its curve is not known. */
  readonly microphone: Microphone | null;
  readonly use: MicrophoneUse | null;
}

/** The sections of a card's live equalizer at a recording's sample rate. */
export function equalizerSections(rig: RigProfile, card: Card, rateHz: Hertz): Biquad[] {
  const { bands, values } = effective(rig, card);
  return bands.filter((band) => bandCentre(band, values) < HIGHEST_CENTRE * rateHz).map((band) => bandFilter(rig, band, values, rateHz));
}

/** @param samples what a receiver gave. @returns as many samples */
export function dryVoice(samples: Float64Array, rateHz: Hertz, { rig, card, microphone, use }: HeardWith): Float64Array {
  const flat = new BiquadChain(equalizerSections(rig, card, rateHz).map(inverseBiquad)).process(samples.slice());
  if (!microphone || !use || microphone.positions.length === 0) return flat;
  const [low, high] = effective(rig, card).passbandHz;
  const undone = (hz: Hertz): Decibels => {
    const [db] = microphoneResponseDb(microphone, use, [Math.max(low, Math.min(high, Math.max(20, hz)))]);
    return Math.max(-MOST_UNDONE_DB, Math.min(MOST_UNDONE_DB, -db));
  };
  const filter = new FftFilter({ i: curveTaps(rateHz, undone, 2 * Math.round((TAPS_S * rateHz) / 2) + 1) }, createKernel());
  return joined([filter.push(flat).i.slice(), filter.end().i]);
}
