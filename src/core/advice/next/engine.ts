/**
 * The next move from everything known so far. Order of business: safety, level, compression, tone, done. Dials of one
 * purpose are set together, each with the mic gain that makes up for its level; two purposes at most between two overs.
 * Stateless and deterministic: the same history gives the same answer.
 */
import { type DialValue, type DialValues, dialInRole, hasAlc, shareOf, valueOn } from '../../rig/index.ts';
import { type Decibels, decibels, type Fraction, fixed } from '../../units/index.ts';
import { movedBy } from '../advisors/gainTurn.ts';
import { shiftSince } from '../alcStanding.ts';
import { chanceDriven, compressionAt } from '../compressorLaw.ts';
import { EMPTY_GOAL, NOTHING_EXPECTED, NOTHING_LEARNED, plain, settingsOf } from './answers.ts';
import { backOff, onceMore } from './backOff.ts';
import { bandsAlike } from './bandsAlike.ts';
import { compressionShare, tooMuchDb } from './compression.ts';
import { MOST_SWR, tooMuchDrive } from './drive.ts';
import { SUSPECTED } from './equalizerBelief.ts';
import { driven, heardInVain, isSaturated, looksAt, movedEqualizerDials } from './evidence.ts';
import { finerStanding } from './finer.ts';
import { endOf } from './levelWish.ts';
import { type Look, lookAt, readingsOf, turns } from './look.ts';
import { offsetMove } from './offset.ts';
import { cardOf, type NextAnswer, type NextInput, type Reasons, type SeenOver } from './seen.ts';
import { WORTH_DB } from './tone.ts';
import { doubtedText, gainPurpose, heldText, lookText, noPositionText, runnersUpOf, scopeText, sentence } from './words.ts';

/** What a turn for the tone must promise while the level is still read, since another over comes all the same, and for each decibel of doubt that it brings into the level. */
const WORTH_MEANWHILE_DB: Decibels = 0.2;
const WORTH_OF_DOUBT = 0.2;
/** With this probability that the equalizer is not in the path nothing else is done before somebody has looked. */
const NAMED = 0.85;
/** With this probability of it nobody is done before the operator has looked: it is the last chance to notice. */
const DOUBTED = 0.03;
/** A reading so far outside the zone is looked at again before anything is called done. */
const ODD_READING: Fraction = 0.2;
/** A zone that ends this near to the end of the scale has nothing above it that a meter shows. */
const AT_END: Fraction = 0.03;
/** Overs up to which the level must be right with such a probability. */
const SURE: readonly (readonly [overs: number, chance: number])[] = [
  [4, 0.95],
  [7, 0.9],
  [8, 0.87],
  [9, 0.8],
  [Number.POSITIVE_INFINITY, 0.6],
];
/** With this probability the gain is not turned by itself, and read again until it is sure. */
const LIKELY = 0.9;
/** As sure as this it must be where the newest reading is outside the zone. */
const SURE_OUTSIDE = 0.95;
/** So many overs in a row that tell nothing of the tone: asking for more would go on for ever. */
const UNHEARD = 3;
/** From so many overs on the position that is likeliest right is good enough, on a dial of coarse steps above all. */
const ENOUGH_OVERS = 8;
const ENOUGH_CHANCE = 0.35;
/** Of a long history no more counts as patience spent than this, and what was looked at since the last change. */
const OLD_OVERS = 7;
/** After so many overs it is said that a dial's steps are too coarse for the zone. */
const LEAST_OVERS_COARSE = 6;
/** A level that is right with less than this is wrong. */
const HARDLY = 0.2;

/** @param asked history of one radio and card, oldest over first */
export function nextAnswer(asked: NextInput): NextAnswer {
  const input = !hasAlc(asked) ? { ...asked, hasOwnLevel: true } : asked;
  const last = input.overs.at(-1);
  if (!last)
    return plain(
      'measure',
      'Nothing is known yet: talk for 15 seconds into a dummy load, read the ALC, and record it on a second receiver.',
      EMPTY_GOAL,
      NOTHING_LEARNED,
    );
  const look = lookAt(input, last);
  const { goal, learned } = look;
  if (last.swr !== null && last.swr > MOST_SWR)
    return plain(
      'stop',
      `SWR ${fixed(last.swr, 1)}: stop transmitting, and look at the antenna and its cable. No dial mends that.`,
      goal,
      learned,
    );
  if (goal.drive === 'high') return onceMore(look, input) ?? backOff(input, last, look);
  if (look.dead >= NAMED)
    return plain(
      'stop',
      `The equalizer was moved and nothing of it was heard: its switch is off, the other bank is in use, or the mode has none. Look at ${learned.deadDials.join(', ')} on the radio.`,
      goal,
      learned,
    );
  const moves = movesOf(input, last, look);
  if (moves.set.length > 0) return moves;
  return finish(look, input, last);
}

/** Compression and tone with the gain that goes with them; the gain alone where both are right. */
function movesOf(input: NextInput, last: SeenOver, look: Look): NextAnswer {
  const { rig, compression, tone, base, goal, learned, mostWith } = look;
  const purposes: { -readonly [purpose in keyof Reasons]: string } = {};
  let values: Readonly<Record<string, DialValue>> = cardOf(last).values;
  if (Object.keys(compression.set).length > 0) {
    values = base.values;
    purposes.compression = goal.compression === 'high' ? 'less compression, as your school has it' : 'compression as your school has it';
  }
  const offset = offsetMove(look, input, last);
  if (offset) {
    values = { ...values, [offset.dial.id]: offset.to };
    purposes.passband = offset.why;
  }
  // A tone that is right is not moved for a little more: it would move the level, and what is known of that is worth more. While the
  // level is doubtful there is another over to come all the same.
  const isLevelSure = goal.alc === 'ok' && look.chance !== null && look.chance >= neededChance(input);
  const isRead = !isLevelSure && !input.hasOwnLevel;
  const isTone =
    !offset && tone !== null && tone.gainDb >= (isRead ? worthMeanwhile(look, last, values) : WORTH_DB) && look.dead < SUSPECTED;
  if (isTone) {
    values = { ...values, ...tone.values };
    purposes.tone = `the equalizer brings your voice about ${decibels(tone.gainDb, 1)} nearer to the target${tone.tiltDb > 0 ? ', as near as the next channel bears' : ''}`;
  }
  if (look.worded && Object.keys(look.worded.set).length > 0) {
    values = { ...values, ...look.worded.set };
    purposes.tone = look.worded.why;
  }
  const alike = !offset && turns(input, 'tone') ? bandsAlike(input, last, values, goal.alc) : null;
  if (alike) {
    values = { ...values, ...alike };
    const text =
      goal.alc === 'high'
        ? 'the equalizer lifts everything, which is level and not tone: all of it down alike, since the mic gain has no room left'
        : 'the equalizer cuts everything, which is level and not tone: all of it up alike, since the mic gain has no room left';
    purposes.tone = purposes.tone ? `${purposes.tone}; ${text}` : text;
  }
  if (!offset && look.levelled && look.dead < SUSPECTED) {
    values = { ...values, ...look.levelled.values };
    purposes.tone =
      goal.alc === 'high'
        ? 'the mic gain has no room left: an equalizer of the same shape that lifts less'
        : 'the mic gain has no room left: an equalizer of the same shape that cuts less';
  }
  const driving = lessDriving(look, input, last);
  if (driving) {
    values = { ...values, ...driving };
    purposes.compression = 'the mic gain drives the compressor harder than your school has it, and the ALC stays where it is';
  }
  const standingWith = (set: Readonly<Record<string, DialValue>>) => {
    const most = mostWith(set);
    // From above the zone the gain never goes up, whatever an equalizer should take away: the next reading tells.
    const highest = goal.alc === 'high' ? Math.min(most, gainShare(input, last)) : most;
    return readingsOf(look.read, rig, { ...last.card, values: set }, look.ways, highest).gain;
  };
  let standing = input.hasOwnLevel ? null : standingWith(values);
  // What is likely enough is not moved for a little more: another reading tells.
  const isAlone = Object.keys(purposes).length === 0;
  const isSure = isAlone && goal.alc === 'ok' && look.chance !== null && look.chance >= Math.min(LIKELY, neededChance(input));
  if (standing && isAlone && !isSure && look.dead < HARDLY) {
    const finer = finerStanding(look, input, values, standing, standingWith);
    if (finer) {
      values = { ...values, ...finer.set };
      standing = finer.standing;
      const isAtEnd = gainShare(input, last) <= 0 || gainShare(input, last) >= 1;
      purposes.level = `${isAtEnd ? 'the mic gain has no room left' : 'the mic gain’s steps are too coarse for the zone'}: ${finer.why}`;
    }
  }
  if (input.hasOwnLevel) {
    const madeUp = makeUp(look, last, values);
    if (madeUp) {
      values = { ...values, ...madeUp };
      purposes.level = 'the mic gain makes up for the change of level';
    }
  } else if (
    standing &&
    learned.alc &&
    !driving &&
    !isSure &&
    standing.to !== standing.from &&
    (look.held === null || goal.alc === 'high')
  ) {
    values = { ...values, [standing.dial.id]: standing.to };
    purposes.level ??= gainPurpose(tooMuchDrive(driven(input)) !== null, goal.alc, standing, !isAlone, last.alc === 1);
  }
  const thoughts = Object.values(purposes);
  if (thoughts.length > 0 && look.dead >= SUSPECTED && turns(input, 'tone')) thoughts.push(lookText(learned.deadDials));
  const set = settingsOf(rig, last, values);
  return {
    status: 'move',
    why: set.length === 0 ? '' : `${sentence(thoughts.join('; '))}.`,
    reasons: purposes,
    set,
    expected: {
      ...NOTHING_EXPECTED,
      alc: standing && learned.alc && !driving ? standing.expected : null,
      compressionDb: compressionWith(look, values),
      toneErrorDb: isTone ? tone.expected : null,
      adjacentDb: nextChannelWith(look, values),
      bandsDb: isTone ? tone.bandsDb : null,
    },
    confidence: Number(Math.min(0.95, Math.max(0.2, standing?.chance ?? 0.6)).toFixed(2)),
    runnersUp: runnersUpOf(look),
    goal,
    learned,
  };
}

/** Where a compressor holds the level, its own dial has no place left and the meter shows too much: less gain; null elsewhere. */
function lessDriving({ rig, goal, held, compression, compressor }: Look, input: NextInput, last: SeenOver): DialValues | null {
  const dial = dialInRole(rig, 'mic-gain', last.card.mode);
  const isItsTurn = goal.compression === 'high' && Object.keys(compression.set).length === 0 && turns(input, 'compression');
  if (!dial || held === null || !isItsTurn || !compressor || last.compressionDb === null || chanceDriven(compressor) < 0.5) return null;
  const from = valueOn(cardOf(last), dial);
  const to = movedBy(dial, from, -tooMuchDb(last.compressionDb));
  return to === from ? null : { [dial.id]: to };
}

/** What the compression meter should show with its dials turned so; null where they are not, or nobody ever read it. */
function compressionWith({ rig, compressor, compression, base }: Look, values: DialValues): NextAnswer['expected']['compressionDb'] {
  const share = compressionShare(rig, { mode: base.mode, values });
  return compressor && share > 0 && Object.keys(compression.set).length > 0 ? compressionAt(compressor, share) : null;
}

/** What the next channel should be with dials turned so; null where no over told, or compression is turned as well. */
function nextChannelWith({ compression, nextChannel, base }: Look, values: DialValues): NextAnswer['expected']['adjacentDb'] {
  return Object.keys(compression.set).length > 0 ? null : (nextChannel?.expectedDb({ ...base, values }) ?? null);
}

/** What the tone must promise while the level is still read. */
function worthMeanwhile({ rig, tone, ways }: Look, last: SeenOver, values: DialValues): Decibels {
  const set = { ...values, ...tone?.values };
  const { shiftDoubtDb } = shiftSince(rig, { ...last.card, values }, { ...last.card, values: set }, ways);
  return Math.min(WORTH_DB, Math.max(WORTH_MEANWHILE_DB, WORTH_OF_DOUBT * shiftDoubtDb));
}

/** The mic gain that leaves the level as it was; null where that is the one it has. */
function makeUp({ rig, ways }: Look, last: SeenOver, values: DialValues): DialValues | null {
  const dial = dialInRole(rig, 'mic-gain', last.card.mode);
  if (!dial) return null;
  const from = valueOn(cardOf(last), dial);
  const to = movedBy(dial, from, -shiftSince(rig, last.card, { ...last.card, values }, ways).shiftDb);
  return to === from ? null : { [dial.id]: to };
}

function gainShare({ rig, mode }: NextInput, last: SeenOver): Fraction {
  const dial = dialInRole(rig, 'mic-gain', mode);
  return dial ? shareOf(dial, valueOn(cardOf(last), dial)) : 1;
}

const neededChance = (input: NextInput): number => SURE.find(([most]) => patience(input) < most)?.[1] ?? 0.5;
/** Overs that were spent on it. */
const patience = (input: NextInput): number => Math.min(input.overs.length, OLD_OVERS + looksAt(input));

/** No dial is left to turn: is it good, or is something missing? */
function finish(look: Look, input: NextInput, last: SeenOver): NextAnswer {
  const { goal, learned, noVoice, worded, voice, chance, held, side, dead, isBestGain, most, wanted, isToneKept } = look;
  const ask = (why: string) => plain('measure', why, goal, learned);
  if (worded && !worded.isGood && goal.alc === 'ok')
    return ask(
      `${worded.why === '' ? 'What was said tells no dial to turn.' : `${sentence(worded.why)}.`} Ask another station, or record it on a second receiver.`,
    );
  // With the meter at one end and the gain at the other another over would tell nothing.
  if (goal.alc === 'high' && isSaturated(last, input.school.alcZone) && gainShare(input, last) <= 0)
    return plain('stop', noPositionText(false, 0), goal, learned);
  const isUnheard = !voice && turns(input, 'tone') && !worded;
  if (isUnheard && goal.alc === 'ok' && heardInVain(input) >= UNHEARD)
    return plain(
      'stop',
      `The tone can’t be judged by these recordings: ${noVoice.replace(/\.$/, '')}. The level is right; for the tone find a receiver that hears you better.`,
      goal,
      learned,
    );
  if (isUnheard)
    return ask(`The tone can’t be judged: ${noVoice.replace(/\.$/, '')}. Talk for 15 seconds and record it on a second receiver.`);
  // Where deviation or depth is the level, it is no business of the ALC.
  if (input.hasOwnLevel) return plain('done', scopeText(input.scope), goal, learned);
  if (last.alc === null) return ask('Read the ALC on speech peaks with the next over: without it the level can’t be judged.');
  if (dead >= SUSPECTED && turns(input, 'tone')) return ask(`${sentence(lookText(learned.deadDials))}, and say the same once more.`);
  const isOutOfHand = goal.alc === 'low' || (goal.alc === 'high' && endOf(input.rig, input.mode, last) === 'foot');
  if (held !== null && isOutOfHand) return plain('stop', heldText(goal.alc === 'low'), goal, learned);
  const [low, top] = input.school.alcZone;
  const high = top > 1 - AT_END ? Number.POSITIVE_INFINITY : top;
  const [newest, before] = [-1, -2].map((k) => input.overs.at(k)?.alc ?? null);
  const isTwiceBelow = newest !== null && before !== null && Math.max(newest, before) < low;
  const isTwiceOutside = isTwiceBelow || (newest !== null && before !== null && Math.min(newest, before) > high);
  const isHeldClean = goal.drive === 'ok' && most < 1 && wanted !== null && wanted > most;
  if (goal.alc === 'low' && isHeldClean && isTwiceBelow && chance !== null && chance < HARDLY)
    return plain(
      'stop',
      'The next channel is clean only with the ALC below the zone, and a clean signal comes first: leave the mic gain there. To come into the zone, give the equalizer less top, or have the amplifier’s drive looked at.',
      goal,
      learned,
    );
  // The newest readings, all on one side, say that it is not.
  const isNearest = isBestGain && held === null && side === null && chance !== null && chance >= ENOUGH_CHANCE;
  const spent = patience(input);
  if (goal.alc !== 'ok' && isNearest && spent < ENOUGH_OVERS)
    return ask(
      'No position of the mic gain is likelier to bring the ALC into the zone than where it stands: read it once more, with nothing turned.',
    );
  if (goal.alc !== 'ok' && isBestGain && isTwiceOutside && chance !== null && chance < HARDLY && spent >= LEAST_OVERS_COARSE)
    return plain('stop', noPositionText(goal.alc === 'low', gainShare(input, last)), goal, learned);
  if (goal.alc !== 'ok' && !isNearest)
    return ask('The ALC is outside the zone and the mic gain has nowhere to go: look at the meter again while you talk.');
  if (goal.compression === 'unknown' && turns(input, 'compression')) return ask('Read the compression meter on peaks with the next over.');
  const moved = movedEqualizerDials(input);
  if (dead >= DOUBTED && looksAt(input) === 1 && moved.length > 0 && turns(input, 'tone'))
    return plain('measure', doubtedText(moved), goal, { ...learned, deadDials: moved });
  const needed = neededChance(input);
  const isOutside = last.alc < low - 1e-9 || last.alc > high + 1e-9;
  // While only compression is set, the level has its own step.
  const isLevelAsked = turns(input, 'tone') || !turns(input, 'compression');
  const isOdd = isTwiceOutside || (isOutside && chance !== null && chance < SURE_OUTSIDE);
  if ((held === null && isOdd && spent <= ENOUGH_OVERS) || last.alc < low - ODD_READING || last.alc > high + ODD_READING)
    return ask('What was read last does not fit what all readings together say: read the ALC once more, with nothing turned.');
  const isEnough = isNearest && spent >= ENOUGH_OVERS;
  if (isLevelAsked && held === null && chance !== null && chance < needed && !isEnough)
    return {
      ...ask('The level fits, but readings of talk scatter by a tenth of the scale: read the ALC once more, with nothing turned.'),
      expected: { ...NOTHING_EXPECTED, alc: learned.alc?.expected ?? null, adjacentDb: learned.drive?.nextChannelDb ?? null },
    };
  const tooMuch = tooMuchDrive(driven(input));
  // A run is led by hand: a fault of the drive, wherever its products fall, comes before any step is done.
  if (input.scope && tooMuch !== null) return backOff(input, last, look);
  if (input.scope) return plain('done', scopeText(input.scope), goal, learned);
  const belong = isToneKept
    ? 'Level and compression are where they belong, and the tone is as near to its target as the mic gain’s room lets it come.'
    : 'Level, compression and tone are where they belong.';
  const done = plain(
    'done',
    `${goal.alc === 'ok' ? belong : 'Compression and tone are where they belong, and the level is as near to the zone as the mic gain’s steps come.'} ${tooMuch ? `But look at the drive: ${tooMuch} ` : ''}Write the numbers down, put the meter back to SWR, and record the voice memories again.`,
    goal,
    learned,
  );
  return { ...done, runnersUp: runnersUpOf(look) };
}
