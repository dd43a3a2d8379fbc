/**
 * A card on another rig: the dials of the other rig that sound nearest to it. The equalizer is matched by the same
 * search as the fit; passband, processor and carrier go to the nearest positions; gain scales mean nothing across radios.
 */
import type { CurvePoint } from '../curve/index.ts';
import { mean } from '../dsp/index.ts';
import {
  type Card,
  type DialValues,
  dialInRole,
  dialOf,
  effective,
  factoryCard,
  MODE_LABELS,
  type Mode,
  nameOf,
  positionsOf,
  type RigProfile,
  responseOf,
  shareOf,
  valueText,
} from '../rig/index.ts';
import type { Decibels } from '../units/index.ts';
import { FitImpossible } from './fitEqualizer.ts';
import { compressionDials, matchCurve, nearestPassband, thirdsOf } from './nearestDials.ts';

/** The nearest card on another rig, and what remains between them. */
export interface CopiedCard {
  readonly mode: Mode;
  readonly values: DialValues;
  /** What remains between the two, overall gain taken out, over the band that both send: [Hz, dB]. */
  readonly difference: readonly CurvePoint[];
  readonly errorDb: Decibels;
  /** One sentence on how near it comes. */
  readonly sentence: string;
  /** What could not be taken over, or was changed, one sentence each. */
  readonly notes: readonly string[];
}

/**
 * Nearest card on another rig.
 * @param start values of the other rig to keep where the card says nothing: its own gain, for one
 * @throws FitImpossible when the other rig lacks the mode
 */
export function copyCard(rig: RigProfile, card: Card, other: RigProfile, start?: DialValues): CopiedCard {
  const mode = modeOn(other, card.mode);
  const notes: string[] = [];
  if (mode !== card.mode) notes.push(`${other.name} has no ${MODE_LABELS[card.mode]}; the card is for ${MODE_LABELS[mode]}.`);
  let values: DialValues = { ...factoryCard(other, mode).values, ...start };
  values = { ...values, ...nearestPassband(other, mode, values, effective(rig, card).passbandHz, notes) };
  values = { ...values, ...nearestCompression(rig, card, other, mode, notes) };
  if (dialInRole(other, 'mic-gain', mode)) {
    notes.push(`Find the mic gain of ${other.name} by its ALC meter: gain numbers mean nothing across radios.`);
  }
  const wanted = responseOf(rig, card);
  const matched = withEqualizer(other, { mode, values }, wanted, notes);
  const difference = differenceOf(rig, card, other, { mode, values: matched });
  const errorDb = rms(difference.map(([, db]) => db));
  return { mode, values: matched, difference, errorDb, sentence: sentenceOf(other, difference, errorDb), notes };
}

function modeOn(other: RigProfile, mode: Mode): Mode {
  if (other.modes.includes(mode)) return mode;
  const twin: Partial<Record<Mode, Mode>> = { usb: 'lsb', lsb: 'usb' };
  const near = twin[mode];
  if (near && other.modes.includes(near)) return near;
  throw new FitImpossible(`${other.name} has no ${MODE_LABELS[mode]}.`);
}

function withEqualizer(other: RigProfile, card: Card, wanted: readonly Decibels[], notes: string[]): DialValues {
  try {
    const { values } = matchCurve(other, flatLevels(other, card), wanted);
    const bank = effective(other, { ...card, values }).bands[0]?.bank;
    if (bank) notes.push(`The numbers are in bank ${bank}, the one in use with these switches; the other bank stays as it was.`);
    return values;
  } catch (error) {
    if (!(error instanceof FitImpossible)) throw error;
    if (wanted.some((db) => Math.abs(db) > 0.5)) notes.push(`${error.message} What the equalizer did is lost.`);
    return card.values;
  }
}

/** The same card with every live band at 0 dB: the search starts from flat, not from what another card left. */
function flatLevels(rig: RigProfile, card: Card): Card {
  const values = { ...card.values };
  for (const { level } of effective(rig, card).bands) if (positionsOf(dialOf(rig, level).scale).includes(0)) values[level] = 0;
  return { ...card, values };
}

function nearestCompression(rig: RigProfile, card: Card, other: RigProfile, mode: Mode, notes: string[]): DialValues {
  const amount = amountOf(rig, card);
  const chosen = compressionDials(other, mode, amount);
  if (amount > 0 && Object.keys(chosen).length === 0) notes.push(`${other.name} has no processor here; the compression is lost.`);
  else if (amount > 0) {
    const told = Object.entries(chosen).map(([id, value]) => `${nameOf(dialOf(other, id))} ${valueText(dialOf(other, id), value)}`);
    notes.push(`Compression is taken over by its share of the scale (${told.join(', ')}); check it by ear and by the ALC.`);
  }
  return chosen;
}

/** Compression in use, as a share of its scale; 0 when it is off. */
function amountOf(rig: RigProfile, card: Card): number {
  const dial = dialInRole(rig, 'compression', card.mode);
  const state = effective(rig, card).dials.find((each) => each.dial.id === dial?.id);
  if (!dial || !state || state.dead) return 0;
  return shareOf(dial, state.value);
}

/** Second card less the first at the third octaves that both send, gain taken out. */
function differenceOf(rig: RigProfile, card: Card, other: RigProfile, copy: Card): CurvePoint[] {
  const [a, b] = [effective(rig, card).passbandHz, effective(other, copy).passbandHz];
  const [low, high] = [Math.max(a[0], b[0]), Math.min(a[1], b[1])];
  const was = responseOf(rig, card);
  const raw = thirdsOf(responseOf(other, copy).map((db, i) => db - was[i])).filter(([hz]) => hz >= low && hz <= high);
  const gain = mean(raw.map(([, db]) => db));
  return raw.map(([hz, db]) => [hz, db - gain]);
}

const rms = (numbers: readonly number[]): number => (numbers.length === 0 ? 0 : Math.sqrt(mean(numbers.map((each) => each ** 2))));

function sentenceOf(other: RigProfile, difference: readonly CurvePoint[], errorDb: Decibels): string {
  if (difference.length === 0) return `The two passbands have nothing in common: ${other.name} can't carry this sound.`;
  if (errorDb < 0.3) return `${other.name} can sound the same: ${errorDb.toFixed(1)} dB apart on average.`;
  const [hz, db] = difference.reduce((worst, point) => (Math.abs(point[1]) > Math.abs(worst[1]) ? point : worst));
  return `${other.name} comes within ${errorDb.toFixed(1)} dB on average; most at ${Math.round(hz)} Hz, where it is ${Math.abs(db).toFixed(1)} dB ${db > 0 ? 'stronger' : 'weaker'}.`;
}

/** The same; a sentence where there can be none. */
export function copyOrSay(...wanted: Parameters<typeof copyCard>): CopiedCard | string {
  try {
    return copyCard(...wanted);
  } catch (error) {
    if (error instanceof FitImpossible) return error.message;
    throw error;
  }
}
