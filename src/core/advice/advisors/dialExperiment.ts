/**
 * Finding out what equalizer dials really do, on purpose: the voice flat, then one band lifted and cut, with a width dial at
 * the two numbers that tell octaves from Q best. Three overs settle what most runs only learn by the way: what is lifted in one
 * and cut in the next stands out of the scatter of talk twice as far.
 */
import { mean, TWELFTH_CENTRES } from '../../dsp/index.ts';
import {
  type Card,
  clickOf,
  type Dial,
  type DialValue,
  type DialValues,
  dialOf,
  effective,
  enableEqualizer,
  equalizerBands,
  nearestOn,
  positionsOf,
  type RigProfile,
  responseOf,
  valueOn,
  valuesOf,
  valueText,
} from '../../rig/index.ts';
import { type Decibels, type Hertz, octavesAbove } from '../../units/index.ts';
import { toBaseline } from '../baseline.ts';
import { variantOf } from '../next/equalizerBelief.ts';
import type { SeenOver } from '../next/seen.ts';

/** One over to make. */
export interface ExperimentStep {
  readonly text: string;
  /** Dials that differ from the card as it stands; empty where it stands so. */
  readonly set: DialValues;
  /** Such an over was recorded. */
  readonly isDone: boolean;
}

/** The overs to make, in their order. */
export interface DialExperiment {
  readonly steps: readonly ExperimentStep[];
  /** The step to do next; null once all are done. */
  readonly next: number | null;
}

/** The band is lifted where voices have most to show it with. */
const MIDDLE_HZ: Hertz = 1000;
const LIFT_DB: Decibels = 12;

/** Null where no equalizer band works in this mode. @param history of the card, oldest first */
export function dialExperiment(rig: RigProfile, card: Card, history: readonly SeenOver[]): DialExperiment | null {
  const now = valuesOf(card, rig);
  const on = enableEqualizer(rig, { ...card, values: now }).values;
  const flat = { ...on, ...toBaseline(rig, { ...card, values: on }) };
  const band = middleBand(rig, { ...card, values: flat });
  if (!band) return null;
  const { level, centre, width } = band;
  const levelDial = dialOf(rig, level);
  const at = (db: Decibels): DialValues => ({
    ...flat,
    ...(typeof centre === 'string' && { [centre]: nearestOn(dialOf(rig, centre), MIDDLE_HZ) }),
    [level]: nearestOn(levelDial, db),
  });
  const told = (values: DialValues) => `${levelDial.label} at ${valueText(levelDial, values[level])}`;
  const wanted: [string, DialValues][] = [['Equalizer flat, compressor off.', flat]];
  if (typeof width === 'string') {
    const dial = dialOf(rig, width);
    for (const [k, number] of tellingWidths(rig, { ...card, values: at(LIFT_DB) }, dial).entries()) {
      const values = { ...at(k === 0 ? LIFT_DB : -LIFT_DB), [width]: number };
      wanted.push([`${told(values)}, ${dial.label} at ${valueText(dial, number)}.`, values]);
    }
  } else for (const db of [LIFT_DB, -LIFT_DB]) wanted.push([`${told(at(db))}.`, at(db)]);
  const steps = wanted.map(([text, values]) => ({
    text,
    set: changes(now, values),
    isDone: history.some((over) => isMadeWith(rig, over, values)),
  }));
  const next = steps.findIndex(({ isDone }) => !isDone);
  return { steps, next: next < 0 ? null : next };
}

function middleBand(rig: RigProfile, card: Card) {
  const { bands, passbandHz } = effective(rig, card);
  const centreOf = (centre: string | number): Hertz =>
    typeof centre === 'number' ? centre : Number(nearestOn(dialOf(rig, centre), MIDDLE_HZ));
  const inside = bands.filter(({ centre }) => centreOf(centre) > passbandHz[0] && centreOf(centre) < passbandHz[1]);
  const away = ({ centre }: (typeof inside)[number]) => Math.abs(octavesAbove(centreOf(centre), MIDDLE_HZ));
  return [...inside].sort((a, b) => away(a) - away(b))[0];
}

/** The two width numbers at which octaves and Q differ most, inside the passband and apart from a gain. */
function tellingWidths(rig: RigProfile, card: Card, dial: Dial): DialValue[] {
  const [low, high] = effective(rig, card).passbandHz;
  const inside = TWELFTH_CENTRES.filter((hz) => hz > low && hz < high);
  const apart = (number: DialValue): Decibels => {
    const at = { ...card, values: { ...card.values, [dial.id]: number } };
    const [octaves, q] = (['octaves', 'q'] as const).map((meaning) => responseOf(variantOf(rig, meaning, clickOf(rig)), at, inside));
    const off = octaves.map((db, i) => db - q[i]);
    const gain = mean(off);
    return mean(off.map((db) => (db - gain) ** 2));
  };
  const ranked = positionsOf(dial.scale).map((number) => ({ number, worth: apart(number) }));
  return ranked
    .sort((a, b) => b.worth - a.worth)
    .slice(0, 2)
    .map(({ number }) => number)
    .sort((a, b) => Number(a) - Number(b));
}

const changes = (now: DialValues, wanted: DialValues): DialValues =>
  Object.fromEntries(Object.entries(wanted).filter(([id, value]) => now[id] !== value));

/** What shapes the tone stood so, and somebody recorded it. */
function isMadeWith(rig: RigProfile, { card, voices }: SeenOver, values: DialValues): boolean {
  const isLike = rig.dials.every((dial) => {
    if (dial.stage !== 'equalizer' && dial.stage !== 'compressor') return true;
    return isUnused(rig, values, dial.id) || valueOn(card, dial) === (values[dial.id] ?? dial.rest);
  });
  return isLike && voices.length > 0;
}

/** Centre and width of a band at 0 dB do nothing. */
const isUnused = (rig: RigProfile, values: DialValues, id: string): boolean =>
  equalizerBands(rig).some(({ level, centre, width }) => (centre === id || width === id) && Number(values[level]) === 0);
