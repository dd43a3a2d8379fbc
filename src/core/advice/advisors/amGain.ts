/** AM: mic gain against how deep the carrier is modulated. */
import { type Card, type DialValue, dialInRole, type RigProfile, valueOn, valueText } from '../../rig/index.ts';
import { amplitudeToDb, type Decibels, type Fraction, roughPercent } from '../../units/index.ts';
import { differOnlyIn, gapText, type HeardThrough, type RadioGain, stepDb, throughSameMicrophone, turnByHeard } from './gainTurn.ts';

/** How deep an over was modulated, by its usual peaks. */
export interface Modulation {
  readonly up: Fraction;
  readonly down: Fraction;
  /** The carrier was cut off on downward peaks: how far beyond, nobody can tell. */
  readonly isCutOff: boolean;
}

/** Peaks belong between these depths: near to full, and never cut off (common practice). */
export const AM_ZONE: readonly [Fraction, Fraction] = [0.7, 0.95];
/** Where a turn aims at. */
const AIM: Fraction = 0.85;
/** A carrier that is cut off gets so much less, at least. */
const CUT_OFF_DB: Decibels = -3;
/** No more at once, however little was heard: the microphone may have been off, or another one. */
const MOST_DB: Decibels = 12;

/** How deep an over was modulated, and the card that it was made with. */
export interface ModulationHeard {
  readonly card: Card;
  readonly modulation: Modulation;
}

/** Deep enough, and not cut off. */
const isDeep = ({ up, down, isCutOff }: Modulation): boolean => !isCutOff && down <= AM_ZONE[1] && Math.max(up, down) >= AM_ZONE[0];

/** More that is wanted, by how deep an over was modulated. */
function wantedDbOf({ up, down, isCutOff }: Modulation): Decibels {
  // How far down it would have gone is not known: as far as up, at least.
  if (isCutOff) return Math.max(-MOST_DB, Math.min(CUT_OFF_DB, amplitudeToDb(AIM / up)));
  return Math.min(MOST_DB, amplitudeToDb(AIM / (down > AM_ZONE[1] ? down : Math.max(up, down))));
}

/** Of all overs, newest first, what those with the microphone of `one` would have shown from where it was spoken; what was cut off nearer by is not known. */
export const modulationsBeside = <T extends ModulationHeard & HeardThrough>(all: readonly T[], one: T): readonly ModulationHeard[] =>
  throughSameMicrophone(all, one)
    .filter(({ heard: { modulation }, factor }) => !modulation.isCutOff || factor >= 1)
    .map(({ heard: { card, modulation }, factor }) => ({
      card,
      modulation: { ...modulation, up: factor * modulation.up, down: factor * modulation.down },
    }));

/**
 * Null where this mode has no mic gain.
 * @param modulation measured with this card  @param others of overs with other gains from the same distance, newest first
 */
export function amGain(rig: RigProfile, card: Card, modulation: Modulation, others: readonly ModulationHeard[] = []): RadioGain | null {
  const { up, down, isCutOff } = modulation;
  const dial = dialInRole(rig, 'mic-gain', card.mode);
  if (!dial) return null;
  const from = valueOn(card, dial);
  const isOver = isCutOff || down > AM_ZONE[1];
  const wanted = `${Math.round(100 * AM_ZONE[0])} to ${roughPercent(AM_ZONE[1])}`;
  const seen = `Peaks usually modulate ${roughPercent(up)} up and ${roughPercent(down)} down; ${wanted} is wanted.`;
  const answer = (to: DialValue, isRight: boolean, text: string): RadioGain => ({
    dial,
    from,
    to,
    isRight,
    isHarmful: isCutOff,
    note: isCutOff ? 'the carrier is cut off' : `usually ${roughPercent(Math.max(up, down))} deep, ${wanted} wanted`,
    text: `${seen} ${text}`,
  });
  const here = `${dial.label} at ${valueText(dial, from)}`;
  if (isDeep(modulation)) return answer(from, true, `Leave ${here}.`);
  const what = isCutOff
    ? 'The carrier is cut off, which splatters'
    : isOver
      ? 'The next loud word cuts the carrier off'
      : 'Much carrier and little voice';
  const db = wantedDbOf(modulation);
  const wantedOf = ({ modulation: of }: ModulationHeard) => (isDeep(of) ? 0 : wantedDbOf(of));
  const alike = others.filter((other) => differOnlyIn(rig, dial, other.card, card));
  const heard = new Map(alike.map((other) => [valueOn(other.card, dial), wantedOf(other)] as const).reverse());
  // On a dial of coarse steps the next one may be too much: what is nearest to right stays.
  if (!isOver && db < stepDb(dial) / 2) return answer(from, true, `The next step of ${dial.label} would likely be too much: leave it.`);
  const { to, gap } = turnByHeard(dial, from, db, heard);
  if (gap) {
    const between = `${valueText(dial, gap.under)} is too little and ${valueText(dial, gap.over)} too much`;
    return answer(to, false, `${what}, and ${between}. ${gapText(dial, from, to, to === from ? db : (heard.get(to) ?? db))}`);
  }
  if (to !== from) return answer(to, false, `${what}: ${dial.label} ${valueText(dial, from)} → ${valueText(dial, to)}.`);
  return answer(
    from,
    false,
    `${what}, and ${dial.label} is at its end. ${isOver ? 'Speak from farther away' : 'Speak at half the distance: that is worth about 6 dB'}.`,
  );
}
