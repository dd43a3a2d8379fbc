/** A tone that gives way to the drive: what an equalizer does to the next channel, and how dull it must be to keep that clean. */
import { sum } from '../../dsp/index.ts';
import { type Card, effective, type RigProfile, responseOf } from '../../rig/index.ts';
import type { Decibels, Fraction } from '../../units/index.ts';
import type { HeardWay } from '../alcStanding.ts';
import { nextChannelChangeDb } from '../thirdOrder.ts';
import { isCompressedAlike } from './compression.ts';
import { CLEAN_DB, nextChannelOf } from './drive.ts';
import { cardOf, type SeenOver } from './seen.ts';
import type { ToneStanding } from './tone.ts';

/** What is foreseen is true to about a decibel. */
const MARGIN_DB: Decibels = 0.75;
/** Overs up to so far above the zone tell how the next channel stands inside it: within its range the ALC holds the drive. */
const LITTLE_ABOVE: Fraction = 0.1;
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

/**
 * What the next channel should be with a card whose ALC stands inside the zone, by what overs with this compression showed; null where
 * none told. The newest one counts, and the newest that was not clean.
 */
export function foreseen(
  rig: RigProfile,
  overs: readonly SeenOver[],
  ways: readonly HeardWay[],
  zone: readonly [Fraction, Fraction],
): ((card: Card) => Decibels) | null {
  const last = overs[overs.length - 1];
  const told = overs.flatMap((over) => {
    const level = nextChannelOf(over);
    // What is not clean with less than that is not clean inside the zone either.
    const tells = over.alc !== null && (over.alc >= ACTS || (level ?? 0) > CLEAN_DB) && over.alc <= zone[1] + LITTLE_ABOVE;
    return level !== null && tells && isCompressedAlike(rig, over.card, last.card) ? [{ card: cardOf(over), level }] : [];
  });
  const newest = told.at(-1);
  if (!newest || ways.length === 0) return null;
  const dirty = told.findLast(({ level }) => level > CLEAN_DB);
  const counted = dirty && dirty !== newest ? [newest, dirty] : [newest];
  return (card) => Math.max(...counted.map((each) => each.level + changeByTone(rig, ways, each.card, card)));
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
  levelDb: (card: Card) => Decibels,
  cardWith: (tone: ToneStanding) => Card,
  tilted: (tiltDb: Decibels) => ToneStanding | null,
): ToneStanding | null {
  if (isClean(levelDb(cardWith(tone)))) return null;
  for (const tilt of TILTS) {
    const duller = tilted(tilt);
    if (duller && isClean(levelDb(cardWith(duller)))) return { ...duller, bestDb: tone.bestDb };
  }
  return null;
}
