/**
 * The next move from everything known so far. Order of business: safety, level, compression, tone, done. Dials of one
 * purpose are set together, each with the mic gain that makes up for its level; two purposes at most between two overs.
 * Stateless and deterministic: the same history gives the same answer.
 */
import { type Finding, spoiltBy } from '../../findings/index.ts';
import type { SsbMeasurement } from '../../measure/index.ts';
import { type Card, type DialValue, dialInRole, positionsOf, type RigProfile, responseOf, valueOn } from '../../rig/index.ts';
import { type Decibels, decibels, type Fraction, fixed } from '../../units/index.ts';
import { gainSpanDb } from '../alcGain.ts';
import { alcStanding } from '../alcStanding.ts';
import { type EqualizerFit, FitImpossible, fitEqualizer } from '../fitEqualizer.ts';
import { defaultTarget } from '../targets.ts';
import { compressionStanding } from './compression.ts';
import { heardShare } from './heardChange.ts';
import {
  cardOf,
  type GoalState,
  type Learned,
  type NextAnswer,
  type NextInput,
  type SeenOver,
  type SeenVoice,
  type Setting,
  TAPS,
} from './seen.ts';

/** Above this the antenna is looked at before anything is turned (common practice). */
const MOST_SWR = 3;
/** A reading this near the end of the scale is a bound, and the sound behind it is no evidence for tone. */
const SATURATED: Fraction = 0.95;
/** The next channel is clean below this, against the wanted power. */
export const CLEAN_DB: Decibels = -36;
/** What the fit must promise before dials are turned for it. */
const WORTH_DB: Decibels = 0.4;
/** Fainter receivers are no judges of tone. */
const LEAST_SNR_DB: Decibels = 8;
/** A reading that grows by less than this with more gain is held. */
const HELD: Fraction = 0.04;
/** One step down from overdrive. */
const BACK_OFF_DB: Decibels = 3;
/** An equalizer of which so little is heard, so many standard deviations from all of it, is not in the path. */
const DEAD_SHARE = 0.3;
const DEAD_SDS = 2.3;

/** @param input history of one radio and card, oldest over first */
export function nextAnswer(input: NextInput): NextAnswer {
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
  if (goal.drive === 'high') return backOff(input, last, look);
  if (learned.deadDials.length > 0)
    return plain(
      'stop',
      `The equalizer was moved and nothing of it was heard: its switch is off, the other bank is in use, or the mode has none. Look at ${learned.deadDials.join(', ')} on the radio.`,
      goal,
      learned,
    );
  const moves = movesOf(input, last, look);
  if (moves.set.length > 0) return moves;
  return finish(look, last, isHeld(input));
}

const EMPTY_GOAL: GoalState = { alc: 'unknown', drive: 'unknown', compression: 'unknown', toneErrorDb: null, bestToneErrorDb: null };
const NOTHING_LEARNED: Learned = { alc: null, equalizerShare: null, deadDials: [] };
const plain = (status: NextAnswer['status'], why: string, goal: GoalState, learned: Learned): NextAnswer => ({
  status,
  why,
  set: [],
  expected: { alc: null, toneErrorDb: null },
  confidence: status === 'done' ? 0.8 : 0.9,
  runnersUp: [],
  goal,
  learned,
});

/** Everything that is worked out once. */
interface Look {
  readonly goal: GoalState;
  readonly learned: Learned;
  readonly rig: RigProfile;
  readonly compression: ReturnType<typeof compressionStanding>;
  /** The voice that the tone is judged by; null where none will do, with the reason. */
  readonly voice: SeenVoice | null;
  readonly noVoice: string;
  readonly fit: EqualizerFit | null;
  /** The fit for the card with its compression set. */
  readonly base: Card;
}

function lookAt(input: NextInput, last: SeenOver): Look {
  // The school's zone, not the profile's.
  const rig = { ...input.rig, alc: { ...input.rig.alc, zone: [...input.school.alcZone] as [number, number] } };
  const card = cardOf(last);
  const compression = compressionStanding(rig, card, input.school.compression, last.compressionDb);
  const base: Card = { ...card, values: { ...card.values, ...compression.set } };
  const isDirty = last.alc !== null && last.alc >= SATURATED;
  const { voice, noVoice } = isDirty ? { voice: null, noVoice: 'the ALC was at the end of its scale' } : bestVoice(last);
  const fit = voice ? fitOf(input, rig, last, voice, base) : null;
  const standing = readingsOf(input, rig, last.card, voice);
  const share = equalizerShare(input, rig);
  return {
    rig,
    compression,
    base,
    voice,
    noVoice,
    fit,
    goal: {
      alc: last.alc === null ? 'unknown' : last.alc < rig.alc.zone[0] - 1e-9 ? 'low' : last.alc > rig.alc.zone[1] + 1e-9 ? 'high' : 'ok',
      drive: driveOf(last.radios),
      compression: compression.state,
      toneErrorDb: fit?.errorBeforeDb ?? null,
      bestToneErrorDb: fit?.best.errorDb ?? null,
    },
    learned: {
      alc: standing.newest && { readings: input.overs.filter(({ alc }) => alc !== null).length, expected: standing.newest.expected },
      equalizerShare: share?.measured ?? null,
      deadDials: share?.dead ?? [],
    },
  };
}

/** The newest change of the equalizer that can be judged, and the dials that proved dead by it. */
function equalizerShare({ overs }: NextInput, rig: RigProfile): { measured: { share: number; sd: number }; dead: string[] } | null {
  const [before, after] = overs.slice(-2);
  if (!before || !after) return null;
  const measured = heardShare(rig, before, after);
  if (!measured) return null;
  const moved = rig.dials.filter((dial) => dial.stage === 'equalizer' && valueOn(cardOf(before), dial) !== valueOn(cardOf(after), dial));
  const isDead = measured.share < DEAD_SHARE && (1 - measured.share) / measured.sd > DEAD_SDS;
  return { measured, dead: isDead ? moved.map(({ label }) => label) : [] };
}

function bestVoice({ voices }: SeenOver): { voice: SeenVoice | null; noVoice: string } {
  const ranked = TAPS.flatMap((tap) => voices.filter((each) => each.tap === tap));
  const judges = ranked.filter(({ tap }) => tap !== 'monitor');
  const [first] = judges;
  if (!first) return { voice: null, noVoice: ranked.length > 0 ? 'the monitor is not the transmitted signal' : 'no voice was recorded' };
  const clean = judges.find(({ result }) => !spoiltBy(result.findings) && (result.snrDb === null || result.snrDb >= LEAST_SNR_DB));
  if (clean) return { voice: clean, noVoice: '' };
  const spoilt: Finding | undefined = spoiltBy(first.result.findings);
  return { voice: null, noVoice: spoilt ? spoilt.text : 'the voice was hardly above the noise' };
}

function fitOf({ overs, purpose }: NextInput, rig: RigProfile, last: SeenOver, voice: SeenVoice, card: Card): EqualizerFit | null {
  const others = overs.slice(0, -1).flatMap((over) => {
    const same = over.voices.find((each) => each.tap === voice.tap && !spoiltBy(each.result.findings));
    const isUsable = same && (over.alc === null || over.alc < SATURATED) && driveOf(over.radios) !== 'high';
    return isUsable ? [{ voice: same.detail, responseDb: responseOf(rig, cardOf(over)) }] : [];
  });
  try {
    return fitEqualizer({
      rig,
      card,
      heardWith: cardOf(last),
      voice: voice.detail,
      others,
      target: defaultTarget(purpose),
      ...(voice.passbandHz && { receiverPassbandHz: voice.passbandHz }),
    });
  } catch (error) {
    if (error instanceof FitImpossible) return null;
    throw error;
  }
}

const readingsOf = ({ overs }: NextInput, rig: RigProfile, now: SeenOver['card'], voice: SeenVoice | null) =>
  alcStanding(
    rig,
    now,
    overs.flatMap(({ alc, card }) => (alc === null ? [] : [{ alc, card }])),
    voice?.detail ?? null,
  );

/** By what grows faster than the voice, where that can be told; else by the next channel itself. */
function driveOf(radios: readonly SsbMeasurement[]): GoalState['drive'] {
  const radio = radios.at(-1);
  if (!radio) return 'unknown';
  if (radio.findings.some(({ code, severity }) => severity !== 'ok' && (code === 'overdrive' || code === 'splatter'))) return 'high';
  const { wantedSide, otherSide } = radio.adjacentDb;
  const bounded = (key: string) => radio.notes[`adjacentDb.${key}`] !== undefined;
  const worst = [
    ['wantedSide', wantedSide],
    ['otherSide', otherSide],
  ].filter(([key, level]) => level !== null && !bounded(String(key)));
  return worst.some(([, level]) => Number(level) > CLEAN_DB) ? 'high' : 'ok';
}

/** Less gain, until the next channel is clean: nothing else is touched meanwhile. */
function backOff(input: NextInput, last: SeenOver, { rig, goal, learned, voice }: Look): NextAnswer {
  const dial = dialInRole(rig, 'mic-gain', input.mode);
  if (!dial)
    return plain(
      'stop',
      'The transmitter is overdriven, and this radio has no mic gain to turn down: lower the power or speak softer.',
      goal,
      learned,
    );
  const from = valueOn(cardOf(last), dial);
  const positions = positionsOf(dial.scale);
  const at = positions.indexOf(from);
  const steps = Math.max(1, Math.round((BACK_OFF_DB / gainSpanDb(positions.length)) * (positions.length - 1)));
  const standing = readingsOf(input, rig, last.card, voice).gain;
  const byReading = standing && goal.alc === 'high' ? positions.indexOf(standing.to) : at;
  const to = positions[Math.max(0, Math.min(at - steps, byReading < 0 ? at : byReading))];
  if (at <= 0)
    return plain(
      'stop',
      'The transmitter is overdriven with the mic gain all the way down: look at the power setting and the microphone’s level.',
      goal,
      learned,
    );
  return {
    ...plain(
      'move',
      'The transmitter is overdriven: power beside the voice grows faster than the voice. Less gain first; nothing else is judged until the next channel is clean.',
      goal,
      learned,
    ),
    set: [{ dial, from, to }],
  };
}

/** Compression and tone with the gain that goes with them; the gain alone where both are right. */
function movesOf(input: NextInput, last: SeenOver, look: Look): NextAnswer {
  const { rig, compression, fit, base, goal, learned } = look;
  const purposes: string[] = [];
  let values: Readonly<Record<string, DialValue>> = cardOf(last).values;
  if (Object.keys(compression.set).length > 0) {
    values = base.values;
    purposes.push(goal.compression === 'high' ? 'less compression, as your school has it' : 'compression as your school has it');
  }
  const gainDb = fit ? fit.errorBeforeDb - fit.best.errorDb : 0;
  const isTone = fit !== null && gainDb >= WORTH_DB && goal.alc !== 'unknown';
  if (isTone || (fit && gainDb >= WORTH_DB && last.alc === null)) {
    values = { ...values, ...fit?.best.values };
    purposes.push(
      `the equalizer brings your voice from ${decibels(fit?.errorBeforeDb ?? 0, 1)} to about ${decibels(fit?.best.errorDb ?? 0, 1)} off the target`,
    );
  }
  const standing = readingsOf(input, rig, { ...last.card, values }, look.voice).gain;
  const isOutside = (goal.alc === 'low' && !isHeld(input)) || goal.alc === 'high';
  if (standing && learned.alc && (isOutside || purposes.length > 0) && standing.to !== standing.from) {
    values = { ...values, [standing.dial.id]: standing.to };
    purposes.push(
      isOutside ? `the ALC was ${goal.alc === 'high' ? 'above' : 'below'} the zone` : 'the mic gain makes up for the change of level',
    );
  } else if (isOutside && standing && purposes.length === 0) {
    // A reading outside the zone, and no better place known: one position on.
    const positions = positionsOf(standing.dial.scale);
    const at = positions.indexOf(standing.from) + (goal.alc === 'high' ? -1 : 1);
    if (at >= 0 && at < positions.length) {
      values = { ...values, [standing.dial.id]: positions[at] };
      purposes.push(`the ALC was ${goal.alc === 'high' ? 'above' : 'below'} the zone`);
    }
  }
  const set = rig.dials.flatMap((dial): Setting[] => {
    const [from, to] = [valueOn(cardOf(last), dial), values[dial.id] ?? valueOn(cardOf(last), dial)];
    return from === to ? [] : [{ dial, from, to }];
  });
  return {
    status: 'move',
    why: set.length === 0 ? '' : `${sentence(purposes.join('; '))}.`,
    set,
    expected: {
      alc: standing && learned.alc ? standing.expected : null,
      toneErrorDb: fit && gainDb >= WORTH_DB ? around(fit.best.errorDb, fit.best.uncertaintyDb) : null,
    },
    confidence: Number(Math.min(0.95, Math.max(0.2, standing?.chance ?? 0.6)).toFixed(2)),
    runnersUp: fit?.runnerUp
      ? [`Another equalizer setting comes within ${decibels(fit.runnerUp.errorDb - fit.best.errorDb, 1)} of it.`]
      : [],
    goal,
    learned,
  };
}

/** More gain brought no more ALC: a processor or a limiter holds the level, and more would only distort. */
function isHeld({ overs, rig, mode }: NextInput): boolean {
  const dial = dialInRole(rig, 'mic-gain', mode);
  const [before, last] = overs.slice(-2);
  if (!dial || !before || !last || before.alc === null || last.alc === null) return false;
  const positions = positionsOf(dial.scale);
  const raised = positions.indexOf(valueOn(cardOf(last), dial)) - positions.indexOf(valueOn(cardOf(before), dial));
  const isRest = rig.dials.every((each) => each.id === dial.id || valueOn(cardOf(last), each) === valueOn(cardOf(before), each));
  return isRest && raised > 0 && last.alc > 0.1 && last.alc - before.alc < HELD;
}

const sentence = (text: string): string => (text === '' ? '' : text[0].toUpperCase() + text.slice(1));
/** An interval of 80 %. */
const around = (likely: Decibels, sd: Decibels): [Decibels, Decibels, Decibels] => [
  Math.max(0, likely - 1.28 * sd),
  likely,
  likely + 1.28 * sd,
];

/** No dial is left to turn: is it good, or is something missing? */
function finish({ goal, learned, noVoice, voice }: Look, last: SeenOver, held: boolean): NextAnswer {
  if (!voice)
    return plain('measure', `The tone can’t be judged: ${noVoice}. Talk for 15 seconds and record it on a second receiver.`, goal, learned);
  if (last.alc === null)
    return plain('measure', 'Read the ALC on speech peaks with the next over: without it the level can’t be judged.', goal, learned);
  if (goal.alc === 'low' && held)
    return plain(
      'done',
      'The ALC stays below the zone whatever the mic gain does: the processor or a limiter holds the level. More gain would only distort; leave it.',
      goal,
      learned,
    );
  if (goal.alc !== 'ok')
    return plain(
      'measure',
      'The ALC is outside the zone and the mic gain has nowhere to go: look at the meter again while you talk.',
      goal,
      learned,
    );
  if (goal.compression === 'unknown') return plain('measure', 'Read the compression meter on peaks with the next over.', goal, learned);
  return plain(
    'done',
    'Level, compression and tone are where they belong. Write the numbers down, put the meter back to SWR, and record the voice memories again.',
    goal,
    learned,
  );
}
