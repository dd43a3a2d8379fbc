/** What was learned of a radio against what its profile says: corrections to offer, once they are settled. */
import { clickOf, dialInRole, type Mode, type RigProfile, valueText } from '../rig/index.ts';
import { decibels, fixed, percent } from '../units/index.ts';
import { stepSentence } from './alcStanding.ts';
import type { Learned } from './next/index.ts';

/** One correction of a rig profile. */
export interface Calibration {
  readonly key: 'width' | 'bells' | 'click';
  readonly text: string;
  /** The profile with it. */
  readonly profile: RigProfile;
}

/** A meaning is settled with this probability. */
const SETTLED = 0.9;
/** Beforehand the ends of what a step of the compressor may do lie further apart than this. */
const KNOWN_RATIO = 1.9;
/** What a dial's decibel is gets rounded to this. */
const CLICK_GRID = 0.05;

/** Empty where nothing settled contradicts the profile. */
export function calibrations(rig: RigProfile, { equalizer: learned }: Learned): Calibration[] {
  const { equalizer } = rig;
  if (!learned || equalizer.kind === 'none') return [];
  const found: Calibration[] = [];
  if (equalizer.kind === 'parametric') {
    const [meaning, sure] = settled(learned.octaves, 'octaves', 'q');
    if (meaning !== null && equalizer.width.meaning !== meaning)
      found.push({
        key: 'width',
        text: `The width number behaves like ${meaning === 'q' ? 'Q: larger is narrower' : 'octaves: larger is wider'} (${percent(sure)} sure).`,
        profile: { ...rig, equalizer: { ...equalizer, width: { meaning } } },
      });
    const [bells, surely] = settled(learned.resonance, 'resonance', 'mirrored');
    if (bells !== null && (equalizer.bells ?? 'mirrored') !== bells)
      found.push({
        key: 'bells',
        text:
          bells === 'resonance'
            ? `Lifts are wider and cuts narrower than the width number says (${percent(surely)} sure).`
            : `A cut is the mirror image of a lift, as wide as the width number says (${percent(surely)} sure).`,
        profile: { ...rig, equalizer: { ...equalizer, bells } },
      });
  }
  const [low, likely, high] = learned.clickDb;
  const now = clickOf(rig);
  if (now < low - CLICK_GRID / 2 || now > high + CLICK_GRID / 2) {
    const clickDb = Number((Math.round(likely / CLICK_GRID) * CLICK_GRID).toFixed(2));
    found.push({
      key: 'click',
      text: `A decibel on an equalizer dial is about ${fixed(likely, 2)} dB (${fixed(low, 2)} to ${fixed(high, 2)}); the profile has ${fixed(now, 2)}.`,
      profile: { ...rig, equalizer: { ...equalizer, clickDb } },
    });
  }
  return found;
}

/** Which of two ways it is, once that is settled, and its probability. @param chance of the first; null where there is no such choice */
const settled = <A extends string, B extends string>(chance: number | null, a: A, b: B): [A | B | null, number] => {
  const sure = chance === null ? 0 : Math.max(chance, 1 - chance);
  return [sure >= SETTLED ? ((chance ?? 0) >= 0.5 ? a : b) : null, sure];
};

/** What the overs have shown that no profile holds, in a sentence each. */
export function learnedLines(rig: RigProfile, mode: Mode, { alc, compression, drive }: Learned): string[] {
  const gain = dialInRole(rig, 'mic-gain', mode);
  const amount = dialInRole(rig, 'compression', mode);
  const step = gain && alc?.law ? stepSentence(rig, { dial: gain, law: alc.law }) : null;
  const lines = step ? [step] : [];
  if (amount && compression) {
    const [low, likely, high] = compression.perStepDb;
    if (high <= KNOWN_RATIO * low)
      lines.push(
        `One step of ${amount.label} moves the compression meter by about ${decibels(likely, 1)} (${fixed(low, 1)} to ${fixed(high, 1)}).`,
      );
  }
  if (gain && drive && drive.mostGain !== null)
    lines.push(`Up to ${gain.label} ${valueText(gain, drive.mostGain)} the next channel stays clean.`);
  if (drive && drive.tiltDb > 0)
    lines.push(`The next channel is clean with ${decibels(drive.tiltDb, 0)} an octave less above 1 kHz than the target has.`);
  return lines;
}
