/**
 * The usual way by hand, as a baseline to compare with (common practice): the meter by tenths of the dial, fixed equalizer
 * numbers by purpose, the compressor by school, then four clicks at a time by a friend's word; done when the meter is in
 * its zone and the word is good.
 */
import type { FindingCode } from '../../findings/index.ts';
import {
  bandCentre,
  type DialValue,
  dialInRole,
  effective,
  enableEqualizer,
  nearestOn,
  type Purpose,
  positionsOf,
  stepFrom,
  valueOn,
  valuesOf,
} from '../../rig/index.ts';
import type { Decibels, Hertz } from '../../units/index.ts';
import { NOTHING_EXPECTED, NOTHING_LEARNED, settingsOf } from './answers.ts';
import { compressionStanding } from './compression.ts';
import { cardOf, type GoalState, type NextAnswer, type NextInput } from './seen.ts';

/** Decibels by frequency that operators set without measuring (common practice). */
const FIXED: Readonly<Record<Purpose, readonly (readonly [belowHz: Hertz, db: Decibels])[]>> = {
  natural: [[20_000, 0]],
  balanced: [
    [300, 4],
    [1800, 0],
    [20_000, 4],
  ],
  'pile-up': [
    [300, -6],
    [1500, 0],
    [20_000, 7],
  ],
  contest: [
    [300, -6],
    [1500, 0],
    [20_000, 7],
  ],
};
/** What a friend says, and the four clicks that follow. */
const WORDS: Partial<Record<FindingCode, readonly [lowHz: Hertz, highHz: Hertz, clicks: number]>> = {
  muffled: [1600, 20_000, 4],
  harsh: [1600, 20_000, -4],
  boomy: [0, 450, -4],
  thin: [0, 450, 4],
};

/** One answer of the script. @param input the same that the engine sees */
export function byHand(input: NextInput): NextAnswer {
  const { rig, overs, purpose, school, mode } = input;
  const last = overs[overs.length - 1];
  const card = cardOf(last);
  let values: Record<string, DialValue> = { ...valuesOf(card, rig) };
  const compression = compressionStanding(rig, card, school.compression, last.compressionDb);
  if (overs.length === 1) values = { ...enableEqualizer(rig, { mode, values: { ...values, ...compression.set } }).values };
  const bands = effective(rig, { mode, values }).bands;
  const levelOf = (band: (typeof bands)[number]) => rig.dials.find(({ id }) => id === band.level);
  const centreOf = (band: (typeof bands)[number]): Hertz => bandCentre(band, values);
  if (overs.length === 1) {
    for (const band of bands) {
      const dial = levelOf(band);
      const db = FIXED[purpose].find(([below]) => centreOf(band) < below)?.[1] ?? 0;
      if (dial) values[dial.id] = nearestOn(dial, db);
    }
    return answer(input, values, 'fixed numbers for the purpose, the compressor as the school has it');
  }
  const [low, high] = school.alcZone;
  const gain = dialInRole(rig, 'mic-gain', mode);
  if (gain && last.alc !== null && (last.alc < low || last.alc > high)) {
    const tenth = Math.max(1, Math.round((positionsOf(gain.scale).length - 1) / 10));
    values[gain.id] = stepFrom(gain.scale, valueOn(card, gain), last.alc > high ? -tenth : tenth);
    return answer(input, values, 'the meter, by a tenth of the dial');
  }
  const word = last.voices[0]?.result.findings.find(({ code, severity }) => severity !== 'ok' && WORDS[code]);
  if (!word) return { ...answer(input, card.values, 'the meter is in its zone and the word is good'), status: 'done' };
  const [from, to, clicks] = WORDS[word.code] ?? [0, 0, 0];
  for (const band of bands) {
    const dial = levelOf(band);
    if (!dial || centreOf(band) < from || centreOf(band) >= to) continue;
    values[dial.id] = stepFrom(dial.scale, valueOn(card, dial), clicks);
  }
  return answer(input, values, `a friend says ${word.code}`);
}

const UNKNOWN: GoalState = { alc: 'unknown', drive: 'unknown', compression: 'unknown', toneErrorDb: null, bestToneErrorDb: null };

function answer({ rig, overs }: NextInput, values: Readonly<Record<string, DialValue>>, why: string): NextAnswer {
  return {
    status: 'move',
    why,
    reasons: {},
    set: settingsOf(rig, overs[overs.length - 1], values),
    expected: NOTHING_EXPECTED,
    confidence: 0.5,
    runnersUp: [],
    goal: UNKNOWN,
    learned: NOTHING_LEARNED,
  };
}
