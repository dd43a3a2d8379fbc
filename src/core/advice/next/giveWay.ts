/** A tone that gives way to the drive: what an equalizer does to the next channel, and how dull it must be to keep that clean. */
import { mean, sum, weightedMean } from '../../dsp/index.ts';
import { type Card, effective, type RigProfile, responseOf } from '../../rig/index.ts';
import type { Decibels, Fraction } from '../../units/index.ts';
import { TENTH } from '../alcGain.ts';
import type { HeardWay } from '../alcStanding.ts';
import { nextChannelChangeDb } from '../thirdOrder.ts';
import { isCompressedAlike } from './compression.ts';
import { CLEAN_DB, nextChannelOf, TEXT_DB } from './drive.ts';
import { cardOf, type SeenOver } from './seen.ts';
import type { ToneStanding } from './tone.ts';

/** A tone is made for so much less than what is just clean. */
const MARGIN_DB: Decibels = 0.75;
/** What another equalizer brings into the next channel is foreseen to such a part of it. */
const CHANGE_DOUBT = 0.4;
/** Overs up to so far above the zone tell how the next channel stands inside it: within its range the ALC holds the drive. */
const LITTLE_ABOVE: Fraction = 0.1;
/** How much more of the next channel the ALC's whole scale brings: 0.3 dB for each dB that it holds back (20 simulated stations: 0.2 to 0.4). */
const SCALE_DB: Decibels = 3;
/** How one over differs from what all showed: its text, and how the voice was that day (48 turns on 18 simulated stations). */
const OVER_DB: Decibels = 4;
/** A reading below this tells that the ALC holds nothing: with more gain there is more to come. */
const ACTS: Fraction = 0.05;
/** How much of its top a target loses, step by step: dB per octave from 1 kHz up. */
const TILTS: readonly Decibels[] = [1, 2, 3, 4.5, 6];

/** How much more the next channel holds with one card than with another, by their equalizers alone; 0 where no voice is known. */
export const changeByTone = (rig: RigProfile, ways: readonly HeardWay[], from: Card, to: Card): Decibels =>
  sum(
    ways.map(({ rig: way, voice: { voice, responseDb }, weight }) => {
      const responses = [responseOf(way, from), responseOf(way, to)] as const;
      return weight * nextChannelChangeDb(voice, responseDb, responses, effective(rig, to).passbandHz);
    }),
  );

/** What overs showed of the next channel with the ALC inside the zone. */
export interface NextChannel {
  /** Overs that told, oldest first. */
  readonly overs: readonly SeenOver[];
  /** What it should be over many texts with a card whose ALC stands inside the zone. */
  readonly usualDb: (card: Card) => Decibels;
  /** What one over should show with it: 10th, 50th and 90th percentile. */
  readonly expectedDb: (card: Card) => readonly [Decibels, Decibels, Decibels];
}

/** By what overs with the newest one's compression showed; null where none told, or no voice is known. */
export function foreseen(
  rig: RigProfile,
  overs: readonly SeenOver[],
  ways: readonly HeardWay[],
  zone: readonly [Fraction, Fraction],
): NextChannel | null {
  const last = overs[overs.length - 1];
  const told = overs.flatMap((over) => {
    const level = nextChannelOf(over);
    // What is not clean with less than that is not clean inside the zone either.
    if (level === null || over.alc === null || !isCompressedAlike(rig, over.card, last.card)) return [];
    const tells = (over.alc >= ACTS || level > CLEAN_DB) && over.alc <= zone[1] + LITTLE_ABOVE;
    return tells ? [{ over, level: level + SCALE_DB * (mean(zone) - over.alc) }] : [];
  });
  if (told.length === 0 || ways.length === 0) return null;
  const usual = (card: Card): { readonly db: Decibels; readonly doubtDb: Decibels } => {
    const changes = told.map(({ over }) => changeByTone(rig, ways, cardOf(over), card));
    const weights = changes.map((change) => 1 / (TEXT_DB ** 2 + (CHANGE_DOUBT * change) ** 2));
    return {
      db: weightedMean(
        told.map(({ level }, k) => level + changes[k]),
        weights,
      ),
      doubtDb: 1 / Math.sqrt(sum(weights)),
    };
  };
  return {
    overs: told.map(({ over }) => over),
    usualDb: (card) => usual(card).db,
    expectedDb: (card) => {
      const { db, doubtDb } = usual(card);
      const spread = TENTH * Math.hypot(OVER_DB, doubtDb);
      return [db - spread, db, db + spread];
    },
  };
}

/** Whether the next channel is likely clean. */
const isClean = (level: Decibels): boolean => level <= CLEAN_DB - MARGIN_DB;

/**
 * The tone nearest to the target that keeps the next channel clean; null where it need not give way, or no tilt would do.
 * @param tone   without regard to the drive
 * @param tilted the same for a target that loses so much of its top
 */
export function giveWay(
  tone: ToneStanding,
  { usualDb }: NextChannel,
  cardWith: (tone: ToneStanding) => Card,
  tilted: (tiltDb: Decibels) => ToneStanding | null,
): ToneStanding | null {
  if (isClean(usualDb(cardWith(tone)))) return null;
  for (const tilt of TILTS) {
    const duller = tilted(tilt);
    if (duller && isClean(usualDb(cardWith(duller)))) return { ...duller, bestDb: tone.bestDb };
  }
  return null;
}
