/**
 * What comes before any tone at the Bench: a bad SWR, an overdriven transmitter, whatever the engine would stop for, and
 * what it would set for level and compression. Null where nothing does.
 */
import { type Card, type RigProfile, readingText, shareOf, valueOn } from '../rig/index.ts';
import { fixed } from '../units/index.ts';
import { type DriveKnee, lessDrive } from './advisors/driveKnee.ts';
import type { RadioGain } from './advisors/gainTurn.ts';
import { type AlcStanding, alcAbout, gainSentence } from './alcStanding.ts';
import type { FittedMove } from './fitEqualizer.ts';
import { moveText } from './moveText.ts';
import { MOST_SWR } from './next/drive.ts';
import type { NextAnswer } from './next/seen.ts';
import { rangeAbout, sentence } from './next/words.ts';
import type { NextStep } from './nextStep.ts';

/** Level and safety of the card as it stands. */
export interface LevelInput {
  /** With the zone that the ALC is to stand in. */
  readonly rig: RigProfile;
  /** As it stands. */
  readonly card: Card;
  readonly standing: AlcStanding;
  /** The newest SWR that was read; null where none was. */
  readonly swr: number | null;
  /** Why an I/Q recording of the card as it stands shows too much drive, in a sentence; null where none does. */
  readonly tooMuchDrive: string | null;
  /** What overs at several drives tell; null where there are none. */
  readonly knee: DriveKnee | null;
  /** What the depth of AM, or the deviation of FM, measured with the card as it stands, says of the gain; null where none was. */
  readonly radioGain: RadioGain | null;
  /** That is the level, whatever the ALC reads. */
  readonly hasOwnLevel: boolean;
  /** What the engine says to all overs of the card; null where it has none, or is at work. */
  readonly answer: NextAnswer | null;
}

/** A stale reading counts as out of the zone once that is likelier than not. */
const LIKELY = 0.5;
/** A card keeps so many characters of a reason. */
const MOST_WHY = 300;
/** "Not this" to compression is remembered with the card, not with one revision of it. */
export const SKIPS_COMPRESSION = 'compression';

/**
 * @param skipped what the operator left aside: safety and level for one revision of the card only
 * @param revision of the card as it stands
 */
export function beforeTone(input: LevelInput, skipped: readonly string[], revision: number): NextStep | null {
  const { rig, standing, swr, tooMuchDrive, knee, answer, card } = input;
  const skips = (what: string) => `${what}-${revision}`;
  if (swr !== null && swr > MOST_SWR)
    return {
      kind: 'none',
      title: 'Stop and look at the antenna',
      text: `The SWR was read as ${fixed(swr, 1)}. No dial mends that: stop transmitting, look at the antenna and its cable, and read it again.`,
    };
  const isOpen = (what: string) => !skipped.includes(skips(what));
  // Two tones tell of the drive as well; once the gain is down on the card, they were another card's.
  const drive = tooMuchDrive ?? (answer && pendingOf(answer, card).length > 0 ? answer.reasons.drive : null);
  // One over that was not clean where all together are.
  if (drive && answer?.status === 'measure' && answer.reasons.drive) return { kind: 'one-more', title: 'One more over', text: answer.why };
  if (drive && isOpen('overdrive')) return duller(input, skips('overdrive')) ?? takeBack(drive, standing, knee, skips('overdrive'));
  const depth = isOpen('depth') ? byDepth(input, skips('depth')) : null;
  if (depth) return depth;
  return (
    (isOpen('stop') ? stopped(input, skips('stop')) : null) ??
    asTheEngineSays(input, skipped, revision) ??
    (isOpen('alc') && !input.hasOwnLevel ? byReadings(rig, standing, answer?.learned.alc != null, skips('alc')) : null)
  );
}

/** The engine may know that less gain alone does not mend it. */
function duller({ answer, card }: LevelInput, skips: string): NextStep | null {
  if (!answer?.reasons.drive || !answer.reasons.tone) return null;
  const moves = pendingOf(answer, card).map(({ dial, from, to }): FittedMove => ({ dial, from, to, why: answer.why.slice(0, MOST_WHY) }));
  const [first] = moves;
  const { adjacentDb } = answer.expected;
  if (!first || !adjacentDb) return null;
  return {
    kind: 'move',
    title: moves.length === 1 ? moveText(first.dial, first.from, first.to) : `Set ${moves.length} dials together`,
    text: answer.why,
    expect: `Expect the next channel ${rangeAbout(adjacentDb)}: record its I/Q again then, or look with an analyser.`,
    skips,
    moves,
  };
}

/** Overs at several drives know where it was clean; they are asked first. */
function takeBack(text: string, { gain }: AlcStanding, knee: DriveKnee | null, skips: string): NextStep {
  const step = { title: 'Less drive first', text, skips };
  if (!gain) return { kind: 'none', ...step };
  const { dial, from } = gain;
  const known = knee && (knee.next ?? knee.highestClean);
  const to = known !== null && shareOf(dial, known) < shareOf(dial, from) ? known : lessDrive(dial, from, gain.to);
  if (to === from) return { kind: 'none', ...step, text: `${text} The mic gain is at its end: look at the power setting.` };
  return {
    kind: 'move',
    ...step,
    title: moveText(dial, from, to),
    expect: 'Record its I/Q again then, or look with an analyser; the tone is judged once it is clean.',
    moves: [{ dial, from, to, why: 'the transmitter was overdriven' }],
  };
}

/** AM and FM have a level of their own, whatever the ALC says. */
function byDepth({ radioGain }: LevelInput, skips: string): NextStep | null {
  if (radioGain === null || radioGain.isRight) return null;
  const { dial, from, to, title, text } = radioGain;
  if (title) return { kind: 'none', title, text, skips };
  if (to === from) return { kind: 'distance', title: 'Speak from another distance', text, skips };
  return {
    kind: 'move',
    title: moveText(dial, from, to),
    text,
    expect: 'Record the I/Q of an over again then.',
    skips,
    moves: [{ dial, from, to, why: text.slice(0, MOST_WHY) }],
  };
}

/** What of an answer is still to do: a dial that was moved since, to whatever, is the operator's own choice. */
const pendingOf = ({ set }: NextAnswer, card: Card) => set.filter(({ dial, from }) => valueOn(card, dial) === from);

/** A radio that does not do what its dials say, or holds the ALC: nothing is gained by turning more of them. */
function stopped({ answer }: LevelInput, skips: string): NextStep | null {
  if (answer?.status !== 'stop') return null;
  return { kind: 'none', title: 'Stop and look', text: answer.why, skips };
}

/** Level and compression, and a tone by other stations' words; what a recording says of the tone is the fit's. */
function asTheEngineSays({ rig, card, standing, answer }: LevelInput, skipped: readonly string[], revision: number): NextStep | null {
  if (answer?.status !== 'move') return null;
  const { reasons, goal, expected } = answer;
  const pending = pendingOf(answer, card);
  const isTone = pending.some(({ dial }) => dial.stage === 'equalizer');
  const isByWords = isTone && goal.toneErrorDb === null;
  const isCompression = pending.some(({ dial }) => dial.stage === 'compressor');
  // The gain that makes up for an equalizer comes after it.
  const isLevel = !isTone || isByWords || isCompression || goal.alc === 'high' || goal.alc === 'low';
  const own = pending.filter(({ dial }) => (dial.stage === 'equalizer' ? isByWords : isLevel));
  const isOffset = reasons.passband !== undefined && pending.some(({ dial }) => dial.role === 'carrier-offset');
  const skips = isCompression ? SKIPS_COMPRESSION : `${isOffset ? 'offset' : 'alc'}-${revision}`;
  const because = [reasons.compression, isOffset ? reasons.passband : undefined, isByWords ? reasons.tone : undefined, reasons.level]
    .filter((text) => text !== undefined)
    .join('; ');
  if (own.length === 0 || because === '' || skipped.includes(skips)) return null;
  const moves = own.map(({ dial, from, to }): FittedMove => ({ dial, from, to, why: because.slice(0, MOST_WHY) }));
  const [{ dial, from, to }] = moves;
  return {
    kind: 'move',
    title: moves.length === 1 ? moveText(dial, from, to) : `Set ${moves.length} dials together`,
    text: `${sentence(because)}. ${reasons.level ? zoneText(rig, standing) : ''}`.trim(),
    ...(expected.alc && { expect: `Expect the ALC ${alcAbout(rig, expected.alc)}.` }),
    skips,
    moves,
  };
}

function zoneText({ alc }: RigProfile, { newest }: AlcStanding): string {
  if (!newest) return '';
  const [low, high] = alc.zone;
  return `The ALC read ${readingText(alc, newest.alc)}; speech peaks belong between ${readingText(alc, low)} and ${readingText(alc, high)}.`;
}

/**
 * What the card's readings alone ask for: where dials have moved since the last one and likely brought the level out of its
 * zone; and where the engine knows of no reading.
 */
function byReadings(rig: RigProfile, standing: AlcStanding, isEngineAware: boolean, skips: string): NextStep | null {
  const { newest, gain } = standing;
  if (!newest || !gain || gain.from === gain.to) return null;
  const [low, high] = rig.alc.zone;
  const isStale = newest.changed.length > 0;
  const isRight = isStale ? gain.now.chance >= LIKELY : isEngineAware || (newest.alc >= low && newest.alc <= high);
  if (isRight) return null;
  const { dial, from, to } = gain;
  const since = isStale ? ` Since then ${newest.changed.join(', ')} changed, and it is likely outside now.` : '';
  return {
    kind: 'move',
    title: moveText(dial, from, to),
    text: `${zoneText(rig, standing)}${since}`,
    expect: gainSentence(rig, gain),
    skips,
    moves: [{ dial, from, to, why: isStale ? 'the ALC is likely outside its zone' : 'the ALC was outside its zone' }],
  };
}
