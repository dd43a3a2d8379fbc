/** Effective settings: what a card really does on its rig, and which of its dials do nothing, with the reason. */
import { type Decibels, fixed, type Hertz, withMinus } from '../units/index.ts';
import { type Card, type DialValues, MODE_LABELS, valueOn } from './card.ts';
import { compareMenu, positionsOf } from './dialScale.ts';
import { bandCentre, bandsResponseDb, type EqualizerBand, equalizerBands } from './equalizer.ts';
import { type Dial, type DialValue, dialInRole, dialOf, type RigProfile } from './rig.ts';

/** Why a dial does nothing now, and what would enable it. */
export interface DeadReason {
  readonly kind: 'mode' | 'switch' | 'bank' | 'passband';
  /** Why it does nothing. */
  readonly text: string;
  /** What would enable it. */
  readonly enable: string;
}

/** A dial with its value, dead or alive. */
export interface DialState {
  readonly dial: Dial;
  readonly value: DialValue;
  /** Null when the dial works. */
  readonly dead: DeadReason | null;
  /** A remark on a dial that works only in part. */
  readonly remark: string | null;
}

/** What a card does on its rig: dials, live bands, passband. */
export interface EffectiveSettings {
  /** Every dial in menu order. */
  readonly dials: readonly DialState[];
  /** Values as they act: a dead switch counts as its factory value. */
  readonly values: DialValues;
  /** The equalizer bands that work now. */
  readonly bands: readonly EqualizerBand[];
  /** What the filter passes, in audio frequency. */
  readonly passbandHz: readonly [Hertz, Hertz];
}

/** A band whose loudest effect inside the passband stays below this is dead. */
const LEAST_EFFECT_DB: Decibels = 0.5;

/** Works out what a card does on its rig. Both must have passed validation. */
export function effective(rig: RigProfile, card: Card): EffectiveSettings {
  const written = Object.fromEntries(rig.dials.map((dial) => [dial.id, valueOn(card, dial)]));
  const dead = new Map<string, DeadReason | null>();
  const values: Record<string, DialValue> = {};
  const settle = (dial: Dial): DialValue => {
    if (dial.id in values) return values[dial.id];
    const reason = deadByMode(dial, card) ?? deadByNeed(rig, dial, settle);
    dead.set(dial.id, reason);
    values[dial.id] = reason ? dial.rest : written[dial.id];
    return values[dial.id];
  };
  for (const dial of rig.dials) settle(dial);
  const passbandHz = shifted(passbandOf(rig, card.mode, values), carrierShiftHz(rig, card.mode, values));
  const bands = equalizerBands(rig).filter((band) => !dead.get(band.level));
  const remarks = new Map<string, string>();
  for (const band of bands) {
    const outside = outsidePassband(rig, band, values, passbandHz);
    if (!outside) continue;
    const parts = [band.centre, band.level, band.width].filter((part) => typeof part === 'string');
    if (!outside.dead) remarks.set(band.level, outside.remark);
    else for (const id of parts) dead.set(id, outside.dead);
  }
  const dials = [...rig.dials].sort(compareMenu).map((dial) => ({
    dial,
    value: written[dial.id],
    dead: dead.get(dial.id) ?? null,
    remark: remarks.get(dial.id) ?? null,
  }));
  return { dials, values, bands, passbandHz };
}

function deadByMode(dial: Dial, card: Card): DeadReason | null {
  if (!dial.modes || dial.modes.includes(card.mode)) return null;
  const modes = dial.modes.map((mode) => MODE_LABELS[mode]).join(' or ');
  return { kind: 'mode', text: `Does nothing in ${MODE_LABELS[card.mode]}.`, enable: `Works in ${modes}.` };
}

function deadByNeed(rig: RigProfile, dial: Dial, settle: (dial: Dial) => DialValue): DeadReason | null {
  for (const need of dial.needs ?? []) {
    const other = dialOf(rig, need.dial);
    const now = settle(other);
    if (need.is.includes(now)) continue;
    const bank = equalizerBands(rig).find((band) => [band.centre, band.level, band.width].includes(dial.id))?.bank;
    const isBank = bank != null && other.stage !== 'equalizer';
    return {
      kind: isBank ? 'bank' : 'switch',
      text: `${isBank ? `Bank ${bank} is not in use: ` : ''}${nameOf(other)} is ${now}.`,
      enable: `Works while ${nameOf(other)} is ${need.is.join(' or ')}.`,
    };
  }
  return null;
}

/** Label with menu address, as people say it. */
export const nameOf = ({ label, menu }: Pick<Dial, 'label' | 'menu'>): string => (menu ? `${label} (${menu})` : label);

/** Lowest edges that a filter is taken to have, however far the carrier was shifted. */
const LEAST_EDGES_HZ: readonly [Hertz, Hertz] = [20, 120];

const shifted = ([low, high]: readonly [Hertz, Hertz], by: Hertz): readonly [Hertz, Hertz] =>
  by === 0 ? [low, high] : [Math.max(LEAST_EDGES_HZ[0], low + by), Math.max(LEAST_EDGES_HZ[1], high + by)];

/** Hertz for a unit of a dial that is marked in Hz or kHz. */
export const hertzOf = ({ unit }: Dial): Hertz => (unit.toLowerCase() === 'khz' ? 1000 : 1);

/** How far the carrier stands off its factory place: it slides the filter along the voice, upwards where it is positive. */
export function carrierShiftHz(rig: RigProfile, mode: Card['mode'], values: DialValues): Hertz {
  const dial = dialInRole(rig, 'carrier-offset', mode);
  if (!dial) return 0;
  const away = Number(values[dial.id]) - Number(dial.rest);
  return Number.isFinite(away) ? away * hertzOf(dial) : 0;
}

/** Edges of the transmit passband that the dials choose, with the carrier at its factory place. */
export function passbandOf(rig: RigProfile, mode: Card['mode'], values: DialValues): readonly [Hertz, Hertz] {
  const passband = rig.passbands.find((each) => each.modes.includes(mode)) ?? rig.passbands[0];
  if (passband.kind === 'fixed') return [passband.edges[0], passband.edges[1]];
  if (passband.kind === 'edges') return [Number(values[passband.low]), Number(values[passband.high])];
  const chosen = passband.edges.find(([option]) => option === values[passband.dial]) ?? passband.edges[0];
  return [chosen[1], chosen[2]];
}

function outsidePassband(
  rig: RigProfile,
  band: EqualizerBand,
  values: DialValues,
  [low, high]: readonly [Hertz, Hertz],
): { dead: DeadReason | null; remark: string } | null {
  const centre = bandCentre(band, values);
  if (band.shape !== 'bell' || (centre >= low && centre <= high)) return null;
  const nearest = centre < low ? low : high;
  const set = Number(values[band.level]);
  // A band at 0 dB is judged by the most it could do.
  const most = Math.max(...positionsOf(dialOf(rig, band.level).scale).map((value) => Math.abs(Number(value))));
  const probe = { ...values, [band.level]: set === 0 ? most : set };
  const [reach] = bandsResponseDb(rig, [band], probe, [nearest]);
  const where = `its centre ${centre} Hz is outside the passband ${low}–${high} Hz`;
  if (Math.abs(reach) < LEAST_EFFECT_DB) {
    return {
      dead: { kind: 'passband', text: `Does nothing: ${where}.`, enable: 'Move its centre inside, or widen the passband.' },
      remark: '',
    };
  }
  return {
    dead: null,
    remark:
      set === 0
        ? `Mostly outside the passband: ${where}.`
        : `Mostly outside the passband: ${fixed(reach)} of ${withMinus(set)} dB left at ${nearest} Hz.`,
  };
}
