/** What the ALC readings of a card are worth now: which is stale and why, what to expect instead, and the next mic gain. */
import { sum, TWELFTH_CENTRES, weightedMean } from '../dsp/index.ts';
import {
  bandsResponseDb,
  type Card,
  type Dial,
  type DialValue,
  dialInRole,
  effective,
  fullScale,
  type MicrophoneUse,
  type RigProfile,
  readingText,
  responseOf,
  shareOf,
  soundChange,
  valueOn,
  valueText,
} from '../rig/index.ts';
import { amplitudeToDb, type Decibels, type Fraction, fixed } from '../units/index.ts';
import { type GainAdvice, type GainLaw, type GainReading, nextGain } from './alcGain.ts';
import { peakChangeDb } from './toneError.ts';
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

/** One way a radio's equalizer may act, with the operator's voice as it was heard through it, and how likely that is. */
export interface HeardWay {
  readonly rig: RigProfile;
  readonly voice: HeardOver;
  readonly weight: number;
}

export interface AlcStanding {
  /** The newest reading: the fraction, what has changed since, and what to expect of the card as it stands. */
  readonly newest: { readonly alc: Fraction; readonly changed: readonly string[]; readonly expected: GainAdvice['now']['expected'] } | null;
  /** The mic gain to try next; null where the rig has no such dial in this mode. */
  readonly gain: (GainAdvice & { readonly dial: Dial }) | null;
}

/** More compression lifts the level behind it, and less lowers it, by about so much (common practice). */
const COMPRESSOR_LIFT_DB: Decibels = 1.5;
/** Spread of what a change of these does to the level, where nothing measured tells. */
const COMPRESSOR_DOUBT_DB: Decibels = 4;
const PASSBAND_DOUBT_DB: Decibels = 1.5;
const MICROPHONE_DOUBT_DB: Decibels = 5;
/** A band's real curve differs from its model's by such a part of what it was moved. */
const BAND_DOUBT = 0.1;

/**
 * @param readings oldest first, of cards of one rig
 * @param ways     the operator's measured voice, with what it went through; none when none is known: then the equalizer's part is a guess
 * @param most     share of the gain dial above which the next channel fills
 */
export function alcStanding(
  rig: RigProfile,
  now: StandingCard,
  readings: readonly AlcReading[],
  ways: readonly HeardWay[],
  most: Fraction = 1,
): AlcStanding {
  const dial = dialInRole(rig, 'mic-gain', now.mode);
  const newest = readings.at(-1);
  const changed = newest ? changedSince(rig, newest.card, now) : [];
  if (!dial) return { newest: newest ? { alc: newest.alc, changed, expected: [newest.alc, newest.alc, newest.alc] } : null, gain: null };
  const known = readings
    .filter(({ card }) => card.mode === now.mode)
    .map((reading): GainReading => ({ gain: valueOn(reading.card, dial), alc: reading.alc, ...shiftSince(rig, reading.card, now, ways) }));
  const gain = { dial, ...nextGain(dial, known, valueOn(now, dial), rig.alc.zone, most, isCompressed(rig, now)) };
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
  ways: readonly HeardWay[],
): { shiftDb: Decibels; shiftDoubtDb: Decibels } {
  const change = soundChange(rig, sounding(then), sounding(now));
  if (!change) return { shiftDb: 0, shiftDoubtDb: 0 };
  const has = (stage: Dial['stage']) => change.dials.some(({ dial }) => dial.stage === stage);
  const { passbandHz } = effective(rig, now);
  const levelDb = ({ rig: way, voice: { voice, responseDb } }: HeardWay, card: Card): Decibels =>
    peakChangeDb(voice, responseDb, responseOf(way, card), passbandHz);
  const changes = ways.map((way) => levelDb(way, now) - levelDb(way, then));
  const weights = ways.map(({ weight }) => weight);
  const equalizer = ways.length === 0 ? 0 : weightedMean(changes, weights);
  const apart =
    ways.length === 0
      ? 0
      : Math.sqrt(
          weightedMean(
            changes.map((db) => (db - equalizer) ** 2),
            weights,
          ),
        );
  const nearer = microphoneShift(then.use, now.use);
  const doubts = [
    ...(has('compressor') ? [COMPRESSOR_DOUBT_DB] : []),
    ...(has('passband') ? [PASSBAND_DOUBT_DB] : []),
    ...(change.isMicrophoneMoved ? [nearer === null ? MICROPHONE_DOUBT_DB : MICROPHONE_DOUBT_DB / 2] : []),
    ways.length > 0 ? Math.hypot(0.25 * equalizer, BAND_DOUBT * movedBandsDb(rig, then, now), apart) : 0.5 * change.equalizerDb,
  ];
  const lift = COMPRESSOR_LIFT_DB * Math.sign(sum(change.dials.map(({ dial, from, to }) => moreCompression(dial, from, to))));
  return { shiftDb: equalizer + lift + (nearer ?? 0), shiftDoubtDb: Math.hypot(...doubts) };
}

const isCompressed = (rig: RigProfile, card: Card): boolean =>
  effective(rig, card).dials.some(({ dial, value, dead }) => dial.role === 'compression' && !dead && shareOf(dial, value) > 0);

function moreCompression(dial: Dial, from: DialValue | null, to: DialValue | null): number {
  if (dial.role !== 'compression') return 0;
  const shareAt = (value: DialValue | null) => (value === null ? 0 : shareOf(dial, value));
  return Math.sign(shareAt(to) - shareAt(from));
}

/** How far the bands' own curves were moved, root of the sum of squares: two that change places count, though their sum does not. */
function movedBandsDb(rig: RigProfile, then: Card, now: Card): Decibels {
  const curvesOf = (card: Card) => {
    const { bands, values } = effective(rig, card);
    return new Map(bands.map((band) => [band.level, bandsResponseDb(rig, [band], values, TWELFTH_CENTRES)]));
  };
  const [was, is] = [curvesOf(then), curvesOf(now)];
  const moved = [...new Set([...was.keys(), ...is.keys()])].map((level) =>
    Math.max(...TWELFTH_CENTRES.map((_, i) => Math.abs((is.get(level)?.[i] ?? 0) - (was.get(level)?.[i] ?? 0)))),
  );
  return Math.hypot(...moved);
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

/** Beforehand the ends of what a step may do lie further apart than this; once they are nearer, readings have told. */
const KNOWN_RATIO = 1.8;

/** What one step of the gain does to the reading, in a sentence; null before readings have told. */
export function stepSentence(rig: RigProfile, { dial, law: { perStep } }: { readonly dial: Dial; readonly law: GainLaw }): string | null {
  const [low, likely, high] = perStep;
  if (high > KNOWN_RATIO * low) return null;
  const text = (share: Fraction) => fixed(share * fullScale(rig.alc), 2);
  return `One step of ${dial.label} moves the ALC by about ${text(likely)} here (${text(low)} to ${text(high)}).`;
}

/** The next value in a sentence: "30 → 26, expect about 0.45". */
export function gainSentence(rig: RigProfile, { dial, from, to, expected }: NonNullable<AlcStanding['gain']>): string {
  const about = `expect ${alcAbout(rig, expected)}`;
  return from === to
    ? `Leave ${dial.label} at ${valueText(dial, from)}: ${about}.`
    : `${dial.label} ${valueText(dial, from)} → ${valueText(dial, to)}, ${about}.`;
}
