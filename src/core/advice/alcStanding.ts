/** What the ALC readings of a card are worth now: which is stale and why, what to expect instead, and the next mic gain. */
import {
  type Card,
  type Dial,
  dialInRole,
  effective,
  type MicrophoneUse,
  type RigProfile,
  readingText,
  responseOf,
  soundChange,
  valueOn,
  valueText,
} from '../rig/index.ts';
import { amplitudeToDb, type Decibels, type Fraction } from '../units/index.ts';
import { type GainAdvice, type GainReading, nextGain } from './alcGain.ts';
import { levelChangeDb } from './toneError.ts';
import type { HeardOver } from './toneEstimate.ts';

/** What was said into the microphone while a meter was read. */
export const SAID = ['talk', 'counting', 'sustained'] as const;
export type Said = (typeof SAID)[number];
export const SAID_LABELS: Readonly<Record<Said, string>> = { talk: 'ordinary talk', counting: 'counting', sustained: 'a sustained word' };

/** A card as it stood, with how the microphone was used; null where that was not noted. */
export interface StandingCard extends Card {
  readonly use: MicrophoneUse | null;
}

/** An ALC reading with the card it was read on. */
export interface AlcReading {
  readonly card: StandingCard;
  readonly alc: Fraction;
}

export interface AlcStanding {
  /** The newest reading: the fraction, what has changed since, and what to expect of the card as it stands. */
  readonly newest: { readonly alc: Fraction; readonly changed: readonly string[]; readonly expected: GainAdvice['now']['expected'] } | null;
  /** The mic gain to try next; null where the rig has no such dial in this mode. */
  readonly gain: (GainAdvice & { readonly dial: Dial }) | null;
}

/** Spread of what a change of these does to the level, where nothing measured tells. */
const COMPRESSOR_DOUBT_DB: Decibels = 4;
const PASSBAND_DOUBT_DB: Decibels = 1.5;
const MICROPHONE_DOUBT_DB: Decibels = 5;

/**
 * @param readings oldest first, of cards of one rig
 * @param voice    the operator's measured voice, with what it went through; null when none is known: then the equalizer's part is a guess
 * @param most     share of the gain dial above which the next channel fills
 */
export function alcStanding(
  rig: RigProfile,
  now: StandingCard,
  readings: readonly AlcReading[],
  voice: HeardOver | null,
  most: Fraction = 1,
): AlcStanding {
  const dial = dialInRole(rig, 'mic-gain', now.mode);
  const newest = readings.at(-1);
  const changed = newest ? changedSince(rig, newest.card, now) : [];
  if (!dial) return { newest: newest ? { alc: newest.alc, changed, expected: [newest.alc, newest.alc, newest.alc] } : null, gain: null };
  const known = readings
    .filter(({ card }) => card.mode === now.mode)
    .map((reading): GainReading => ({ gain: valueOn(reading.card, dial), alc: reading.alc, ...shiftSince(rig, reading.card, now, voice) }));
  const gain = { dial, ...nextGain(dial, known, valueOn(now, dial), rig.alc.zone, most) };
  return { newest: newest ? { alc: newest.alc, changed, expected: gain.now.expected } : null, gain };
}

/** What of a card bears on the level into the ALC: the microphone and every dial of the path up to it. */
const BEFORE_ALC: readonly Dial['stage'][] = ['mic', 'gain', 'equalizer', 'compressor', 'passband'];

/** What has changed that makes a reading stale, in words. */
export function changedSince(rig: RigProfile, then: StandingCard, now: StandingCard): string[] {
  if (then.mode !== now.mode) return ['the mode'];
  const change = soundChange(rig, sounding(then), sounding(now));
  if (!change) return [];
  const dials = change.dials.filter(({ dial }) => BEFORE_ALC.includes(dial.stage));
  const equalizer = dials.filter(({ dial }) => dial.stage === 'equalizer');
  const others = dials.filter(({ dial }) => dial.stage !== 'equalizer');
  return [
    ...(change.isMicrophoneMoved ? ['the microphone'] : []),
    ...others.map(({ dial, to }) => (to === null ? dial.label : `${dial.label} to ${valueText(dial, to)}`)),
    ...(equalizer.length > 0 || change.equalizerDb > 0.1 ? ['the equalizer'] : []),
  ];
}

const sounding = ({ use, ...card }: StandingCard): Card & { use?: MicrophoneUse } => (use ? { ...card, use } : card);

/** How much more level the card sends into the ALC now than it did, the gain aside, and how sure that is. */
export function shiftSince(
  rig: RigProfile,
  then: StandingCard,
  now: StandingCard,
  voice: HeardOver | null,
): { shiftDb: Decibels; shiftDoubtDb: Decibels } {
  const change = soundChange(rig, sounding(then), sounding(now));
  if (!change) return { shiftDb: 0, shiftDoubtDb: 0 };
  const has = (stage: Dial['stage']) => change.dials.some(({ dial }) => dial.stage === stage);
  const { passbandHz } = effective(rig, now);
  const levelDb = (card: Card): Decibels => {
    if (!voice) return 0;
    const response = responseOf(rig, card);
    return levelChangeDb(
      voice.voice,
      response.map((db, i) => db - voice.responseDb[i]),
      passbandHz,
    );
  };
  const equalizer = levelDb(now) - levelDb(then);
  const nearer = microphoneShift(then.use, now.use);
  const doubts = [
    ...(has('compressor') ? [COMPRESSOR_DOUBT_DB] : []),
    ...(has('passband') ? [PASSBAND_DOUBT_DB] : []),
    ...(change.isMicrophoneMoved ? [nearer === null ? MICROPHONE_DOUBT_DB : MICROPHONE_DOUBT_DB / 2] : []),
    voice ? Math.hypot(0.25 * equalizer, 0.15 * change.equalizerDb) : 0.5 * change.equalizerDb,
  ];
  return { shiftDb: equalizer + (nearer ?? 0), shiftDoubtDb: Math.hypot(...doubts) };
}

/** A voice near a microphone falls off with the distance; null where more than the distance has changed. */
function microphoneShift(then: MicrophoneUse | null, now: MicrophoneUse | null): Decibels | null {
  if (!then || !now) return null;
  const { distanceCm: before, ...rest } = then;
  const { distanceCm: after, ...others } = now;
  return JSON.stringify(rest) === JSON.stringify(others) ? amplitudeToDb(before / after) : null;
}

/** A reading that is to be expected, and its range: "about 0.45 (0.35 to 0.55)". */
export const alcAbout = ({ alc }: RigProfile, [low, likely, high]: readonly [Fraction, Fraction, Fraction]): string =>
  `about ${readingText(alc, likely)} (${readingText(alc, low)} to ${readingText(alc, high)})`;

/** The next value in a sentence: "30 → 26, expect about 0.45". */
export function gainSentence(rig: RigProfile, { dial, from, to, expected }: NonNullable<AlcStanding['gain']>): string {
  const about = `expect ${alcAbout(rig, expected)}`;
  return from === to
    ? `Leave ${dial.label} at ${valueText(dial, from)}: ${about}.`
    : `${dial.label} ${valueText(dial, from)} → ${valueText(dial, to)}, ${about}.`;
}
