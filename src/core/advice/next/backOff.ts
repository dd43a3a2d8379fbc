/** The next channel is not clean: less gain, or a tone that gives way where less gain does not mend it. */
import { dialInRole, positionsOf, shareOf, valueOn } from '../../rig/index.ts';
import { decibels } from '../../units/index.ts';
import { NOTHING_EXPECTED, plain, settingsOf } from './answers.ts';
import { isCompressedAlike } from './compression.ts';
import { afterLessDb, CLEAN_DB, driveOf, nextChannelOf, tooMuchDrive } from './drive.ts';
import { SUSPECTED } from './equalizerBelief.ts';
import { driven } from './evidence.ts';
import { type Look, readingsOf } from './look.ts';
import { cardOf, type NextAnswer, type NextInput, type SeenOver } from './seen.ts';
import { sentence } from './words.ts';

/** So many overs must have told before one of them is taken for odd. */
const LEAST_TOLD = 3;
/** So many overs that were not clean say that less gain alone does not mend it. */
const LEAST_DIRTY = 2;

/** One over that was not clean where all together are: another text tells; null elsewhere. */
export function onceMore({ goal, learned, nextChannel }: Look, { overs }: NextInput): NextAnswer | null {
  const [before, last] = [overs.at(-2), overs.at(-1)];
  if (!nextChannel || !last || !before || driveOf(before) === 'high') return null;
  const level = nextChannelOf(last);
  const usualDb = nextChannel.usualDb(cardOf(last));
  if (level === null || nextChannel.overs.length < LEAST_TOLD || nextChannel.overs.at(-1)?.card !== last.card || usualDb > CLEAN_DB)
    return null;
  const why = `The next channel stood at ${decibels(level, 0)} re the voice in this over, and at ${decibels(usualDb, 0)} over all of them: one text fills it more than another. Talk once more and say something else, with nothing turned.`;
  return { ...plain('measure', why, goal, learned), reasons: { drive: why } };
}

/** Less gain, until the next channel is clean: nothing else is touched meanwhile. */
export function backOff(input: NextInput, last: SeenOver, look: Look): NextAnswer {
  const { rig, goal, learned, ways, overs, most } = look;
  const dial = dialInRole(rig, 'mic-gain', input.mode);
  const isOverdriven = tooMuchDrive(driven(input)) ?? '';
  const duller = lessTop(input, last, look, isOverdriven);
  if (duller) return duller;
  if (!dial)
    return plain('stop', `${isOverdriven} This radio has no mic gain to turn down: lower the power or speak softer.`, goal, learned);
  const from = valueOn(cardOf(last), dial);
  const lower = positionsOf(dial.scale).filter((value) => shareOf(dial, value) < shareOf(dial, from));
  if (lower.length === 0)
    return plain(
      'stop',
      `${isOverdriven} The mic gain is all the way down: look at the power setting and the microphone’s level.`,
      goal,
      learned,
    );
  const highest = shareOf(dial, lower[lower.length - 1]);
  const gain = readingsOf(overs, rig, last.card, ways, Math.max(shareOf(dial, lower[0]), Math.min(most, highest))).gain;
  const to = gain && gain.to !== from ? gain.to : lower[lower.length - 1];
  const level = nextChannelOf(driven(input));
  const positions = positionsOf(dial.scale);
  const steps = positions.indexOf(from) - positions.indexOf(to);
  const [least, likely, greatest] = gain?.law.stepDb.map((db) => steps * db) ?? [];
  return {
    ...plain('move', `${isOverdriven} Less gain first; nothing else is judged until it is clean.`, goal, learned),
    reasons: { drive: isOverdriven },
    set: [{ dial, from, to }],
    expected: {
      ...NOTHING_EXPECTED,
      alc: gain?.expected ?? null,
      adjacentDb: gain && level !== null ? afterLessDb(level, [least, likely, greatest]) : null,
    },
  };
}

/** A duller equalizer, where the ALC is not above its zone and less gain was tried, or would leave the zone; null otherwise. */
function lessTop(input: NextInput, last: SeenOver, look: Look, isOverdriven: string): NextAnswer | null {
  const { rig, goal, learned, tone, nextChannel, mostWith, read, ways, dead } = look;
  const [low, high] = rig.alc.zone;
  const isBelow = last.alc !== null && last.alc < low;
  const dirty = input.overs.filter((over) => driveOf(over) === 'high' && isCompressedAlike(rig, over.card, last.card)).length;
  if (
    !tone ||
    tone.tiltDb === 0 ||
    !nextChannel ||
    dead >= SUSPECTED ||
    last.alc === null ||
    last.alc > high ||
    (!isBelow && dirty < LEAST_DIRTY)
  )
    return null;
  // Nothing else is turned: more compression would fill the next channel as well.
  const turned = rig.dials.filter(({ stage, id }) => stage === 'equalizer' && tone.values[id] !== undefined);
  const values = { ...cardOf(last).values, ...Object.fromEntries(turned.map(({ id }) => [id, tone.values[id]])) };
  const gain = input.hasOwnLevel ? null : readingsOf(read, rig, { ...last.card, values }, ways, mostWith(values)).gain;
  const set = settingsOf(rig, last, gain ? { ...values, [gain.dial.id]: gain.to } : values);
  const tonePart = 'less top, since a bright voice fills the next channel first and less gain alone does not mend it';
  return {
    ...plain('move', `${isOverdriven} ${sentence(tonePart)}.`, goal, learned),
    reasons: { drive: isOverdriven, tone: tonePart },
    set,
    expected: {
      ...NOTHING_EXPECTED,
      alc: gain?.expected ?? null,
      toneErrorDb: tone.expected,
      adjacentDb: nextChannel.expectedDb({ mode: input.mode, values }),
      bandsDb: tone.bandsDb,
    },
  };
}
