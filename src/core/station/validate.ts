/** The one door for rig profiles and cards: schema first, then what a schema cannot say. */
import Ajv, { type ErrorObject, type ValidateFunction } from 'ajv';
import { type CardFile, cardSchema } from './card.ts';
import { dividesEvenly, isOnScale, rangeText } from './dialScale.ts';
import { equalizerBands } from './equalizer.ts';
import { type RigProfile, rigSchema } from './rig.ts';

/** Input refused, with one sentence a problem. */
export class InvalidInput extends Error {
  override name = 'InvalidInput';
  constructor(readonly problems: readonly string[]) {
    super(problems.join(' '));
  }
}

const ajv = new Ajv({ allErrors: false, allowUnionTypes: true, strictTuples: false, discriminator: false });
const isRig: ValidateFunction<RigProfile> = ajv.compile<RigProfile>(rigSchema);
const isCard: ValidateFunction<CardFile> = ajv.compile<CardFile>(cardSchema);

const describe = (what: string, errors: readonly ErrorObject[] | null | undefined): string => {
  // A failed oneOf reports every branch; the deepest path is the branch that was meant.
  const deepest = [...(errors ?? [])].sort((a, b) => b.instancePath.length - a.instancePath.length)[0];
  const place = deepest?.instancePath ? ` at ${deepest.instancePath.slice(1).replaceAll('/', '.')}` : '';
  const extra = deepest?.params && 'additionalProperty' in deepest.params ? ` ("${deepest.params.additionalProperty}")` : '';
  return `This is not a valid ${what}${place}: ${deepest?.message ?? 'unknown problem'}${extra}.`;
};

/** @throws InvalidInput listing everything that is wrong */
export function parseRig(input: unknown): RigProfile {
  if (!isRig(input)) throw new InvalidInput([describe('rig profile', isRig.errors)]);
  const problems = rigProblems(input);
  if (problems.length > 0) throw new InvalidInput(problems);
  return input;
}

function rigProblems(rig: RigProfile): string[] {
  const problems: string[] = [];
  const ids = new Set<string>();
  const menus = new Set<string>();
  for (const dial of rig.dials) {
    if (ids.has(dial.id)) problems.push(`Two dials have the id "${dial.id}".`);
    if (dial.menu && menus.has(dial.menu)) problems.push(`Two dials have the menu address ${dial.menu}.`);
    ids.add(dial.id);
    menus.add(dial.menu);
    problems.push(...scaleProblems(dial));
  }
  if (problems.length > 0) return problems;
  const isDial = (id: string) => ids.has(id);
  const numeric = (id: string) => rig.dials.find((dial) => dial.id === id)?.scale.kind !== 'options';
  for (const dial of rig.dials) {
    for (const need of dial.needs ?? []) {
      if (!isDial(need.dial)) problems.push(`Dial "${dial.id}" needs "${need.dial}", which does not exist.`);
    }
  }
  if (problems.length === 0 && hasCircle(rig)) problems.push('The dials wait for each other in a circle.');
  for (const band of equalizerBands(rig)) {
    for (const part of [band.centre, band.level, band.width]) {
      if (typeof part !== 'string') continue;
      if (!isDial(part)) problems.push(`The equalizer uses dial "${part}", which does not exist.`);
      else if (!numeric(part)) problems.push(`The equalizer uses dial "${part}", which has no numbers.`);
    }
  }
  const { equalizer } = rig;
  if (equalizer.kind === 'parametric' && equalizer.width.meaning === 'table' && !equalizer.width.table) {
    problems.push('The width meaning is "table", but the table is missing.');
  }
  for (const passband of rig.passbands) {
    const used = passband.kind === 'choice' ? [passband.dial] : passband.kind === 'edges' ? [passband.low, passband.high] : [];
    for (const id of used) if (!isDial(id)) problems.push(`The passband uses dial "${id}", which does not exist.`);
    if (passband.kind === 'fixed' && passband.edges[0] >= passband.edges[1]) {
      problems.push(`The passband ${passband.edges[0]} to ${passband.edges[1]} Hz is upside down.`);
    }
    if (passband.kind === 'choice') {
      const dial = rig.dials.find((each) => each.id === passband.dial);
      const known = passband.edges.map(([option]) => option);
      for (const option of dial?.scale.kind === 'options' ? dial.scale.options : []) {
        if (!known.includes(option)) problems.push(`The passband choice "${option}" has no edges.`);
      }
      for (const [option, low, high] of passband.edges) {
        if (low >= high) problems.push(`The passband choice "${option}" is upside down.`);
      }
    }
  }
  for (const mode of rig.modes) {
    if (!rig.passbands.some((passband) => passband.modes.includes(mode))) problems.push(`No passband is given for ${mode}.`);
  }
  return problems;
}

function scaleProblems({ id, scale, unit, rest }: RigProfile['dials'][number]): string[] {
  if (scale.kind === 'steps') {
    if (scale.min > scale.max) return [`The range of dial "${id}" is upside down.`];
    if (!dividesEvenly(scale)) return [`The steps of dial "${id}" do not divide its range (or make too many positions).`];
  }
  if (scale.kind === 'values' && scale.values.some((value, i) => i > 0 && value <= scale.values[i - 1])) {
    return [`The values of dial "${id}" are not in ascending order.`];
  }
  return isOnScale(scale, rest) ? [] : [`The factory value ${rest} of dial "${id}" is not on its scale (${rangeText({ scale, unit })}).`];
}

function hasCircle(rig: RigProfile): boolean {
  const state = new Map<string, 'open' | 'done'>();
  const visit = (id: string): boolean => {
    if (state.get(id) === 'done') return false;
    if (state.get(id) === 'open') return true;
    state.set(id, 'open');
    const needs = rig.dials.find((dial) => dial.id === id)?.needs ?? [];
    if (needs.some((need) => visit(need.dial))) return true;
    state.set(id, 'done');
    return false;
  };
  return rig.dials.some((dial) => visit(dial.id));
}

/** Checks a card file against its schema and its rig. @throws InvalidInput listing everything that is wrong */
export function parseCard(input: unknown, rig: RigProfile): CardFile {
  if (!isCard(input)) throw new InvalidInput([describe('card', isCard.errors)]);
  const problems = cardProblems(input, rig);
  if (problems.length > 0) throw new InvalidInput(problems);
  return input;
}

function cardProblems(card: CardFile, rig: RigProfile): string[] {
  const problems: string[] = [];
  if (card.rig !== undefined && card.rig !== rig.name) problems.push(`This card belongs to ${card.rig}, not to ${rig.name}.`);
  if (!rig.modes.includes(card.mode)) problems.push(`${rig.name} has no mode ${card.mode}.`);
  for (const [id, value] of Object.entries(card.values)) {
    const dial = rig.dials.find((each) => each.id === id);
    if (!dial) problems.push(`${rig.name} has no dial "${id}".`);
    else if (!isOnScale(dial.scale, value)) problems.push(`${dial.label} can't be ${value}; it goes ${rangeText(dial)}.`);
  }
  return problems;
}
