/**
 * Drive against splatter: the same loop at rising drive, until the next channel lights up; then back (common practice).
 * Overs count that differ from the newest one in the mic gain alone.
 */
import { type Dial, type DialValue, dialInRole, positionsOf, type RigProfile, shareOf, valueOn, valueText } from '../../rig/index.ts';
import { type Decibels, decibels, type Fraction, fixed } from '../../units/index.ts';
import { CLEAN_DB, driveOf, nextChannelOf, tooMuchDrive } from '../next/drive.ts';
import type { SeenOver, TestMeasurement } from '../next/seen.ts';
import { stepDb, turnedBy } from './gainTurn.ts';

/** One drive that was tried. */
export interface DriveLine {
  readonly gain: DialValue;
  /** Louder next channel against the wanted power; null where only noise was seen there. */
  readonly adjacentDb: Decibels | null;
  readonly isClean: boolean;
  /** The same in a word or two. */
  readonly verdict: string;
  /** Third-order products of two tones re PEP; null where none were sent. */
  readonly imd3Db: Decibels | null;
  /** Peak envelope power by the scope, else by the meter; null where nobody looked. */
  readonly pepW: number | null;
  readonly alc: Fraction | null;
}

/** Everything that was tried, lowest drive first. */
export interface DriveKnee {
  readonly dial: Dial;
  readonly lines: readonly DriveLine[];
  /** The highest setting that was clean with nothing dirty below it. */
  readonly highestClean: DialValue | null;
  readonly lowestDirty: DialValue | null;
  /** What to try next; null once the knee lies between two neighbouring settings, or nothing was measured. */
  readonly next: DialValue | null;
  readonly text: string;
}

/** Drive is raised, and taken back, by so much at a time. */
const STEP_DB: Decibels = 3;
/** Settings so near tell no more. */
const NEAR_DB: Decibels = 1;

/**
 * Null where this mode has no mic gain.
 * @param overs oldest first
 * @param asked the mic gain that the ALC asks for; null where nobody read it
 */
export function driveKnee(rig: RigProfile, overs: readonly SeenOver[], asked: DialValue | null = null): DriveKnee | null {
  const last = overs.at(-1);
  const dial = last && dialInRole(rig, 'mic-gain', last.card.mode);
  if (!last || !dial) return null;
  const isLike = ({ card }: SeenOver) => rig.dials.every((each) => each.id === dial.id || valueOn(card, each) === valueOn(last.card, each));
  const lines = overs
    .filter((over) => isLike(over) && driveOf(over) !== 'unknown')
    .map(
      (over): DriveLine => ({
        gain: valueOn(over.card, dial),
        adjacentDb: nextChannelOf(over),
        isClean: tooMuchDrive(over) === null,
        verdict: verdictOf(over),
        imd3Db: newestTest(over, 'two-tone')?.imd3PepDb ?? null,
        pepW: newestTest(over, 'power')?.pepW ?? over.powerW ?? null,
        alc: over.alc,
      }),
    )
    .sort((a, b) => shareOf(dial, a.gain) - shareOf(dial, b.gain));
  const dirty = lines.find(({ isClean }) => !isClean);
  const clean = lines.filter((line) => line.isClean && (!dirty || shareOf(dial, line.gain) < shareOf(dial, dirty.gain))).at(-1);
  const found = { dial, lines, highestClean: clean?.gain ?? null, lowestDirty: dirty?.gain ?? null };
  return { ...found, ...nextDrive(found, rig.alc.zone[1], asked) };
}

/** The first step back from too much drive. Where the ALC asks for less already, its number is the one, as everywhere else. */
export function lessDrive(dial: Dial, from: DialValue, asked: DialValue | null): DialValue {
  return asked !== null && shareOf(dial, asked) < shareOf(dial, from) ? asked : turnedBy(dial, from, -STEP_DB);
}

/** A fault may have its products elsewhere than in the next channel. */
const verdictOf = (over: SeenOver): string => {
  if (tooMuchDrive(over) === null) return 'clean';
  return (nextChannelOf(over) ?? Infinity) <= CLEAN_DB ? 'overdrive found' : 'too much';
};

function newestTest<K extends TestMeasurement['kind']>(
  { tests = [] }: SeenOver,
  kind: K,
): Extract<TestMeasurement, { kind: K }> | undefined {
  return tests.findLast((each): each is Extract<TestMeasurement, { kind: K }> => each.kind === kind);
}

function nextDrive(
  { dial, lines, highestClean, lowestDirty }: Omit<DriveKnee, 'next' | 'text'>,
  zoneEnd: Fraction,
  asked: DialValue | null,
): Pick<DriveKnee, 'next' | 'text'> {
  const limit = `the next channel has to stay at ${decibels(CLEAN_DB, 0)} or less`;
  const pepW = lines.find(({ gain, isClean }) => isClean && gain === highestClean)?.pepW ?? null;
  const atPep = pepW === null ? '' : `, with ${fixed(pepW, pepW < 10 ? 1 : 0)} W PEP`;
  if (lines.length === 0) return { next: null, text: `No I/Q recording and no analyser reading with this card yet: ${limit}.` };
  const positions = positionsOf(dial.scale);
  if (lowestDirty === null) {
    const top = lines[lines.length - 1];
    if (top.alc !== null && top.alc > zoneEnd)
      return { next: null, text: `Clean up to ${valueText(dial, top.gain)}, and the ALC is above its zone already: no reason for more.` };
    if (asked !== null && shareOf(dial, asked) < shareOf(dial, top.gain))
      return { next: null, text: `Clean up to ${valueText(dial, top.gain)}, and the ALC asks for less: no reason for more.` };
    const next = turnedBy(dial, top.gain, STEP_DB);
    if (next === top.gain) return { next: null, text: `Clean up to the end of the dial: ${limit}.` };
    return { next, text: `Clean up to ${valueText(dial, top.gain)}. Say the same with ${valueText(dial, next)} to find the knee.` };
  }
  if (highestClean === null) {
    const next = lessDrive(dial, lowestDirty, asked);
    return next === lowestDirty
      ? { next: null, text: `Not clean even at the lowest setting; ${limit}. Look at the power setting.` }
      : { next, text: `${valueText(dial, lowestDirty)} is too much. Say the same with ${valueText(dial, next)}.` };
  }
  const [low, high] = [positions.indexOf(highestClean), positions.indexOf(lowestDirty)];
  if (high - low <= Math.max(1, Math.round(NEAR_DB / stepDb(dial))))
    return {
      next: null,
      text: `The knee lies between ${valueText(dial, highestClean)} and ${valueText(dial, lowestDirty)}: ${valueText(dial, highestClean)} is the highest clean setting${atPep}.`,
    };
  const next = positions[Math.round((low + high) / 2)];
  return {
    next,
    text: `Clean at ${valueText(dial, highestClean)}, too much at ${valueText(dial, lowestDirty)}: try ${valueText(dial, next)}.`,
  };
}
