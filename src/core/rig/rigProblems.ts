/** What a schema cannot say of a rig profile: names that must fit, ranges the right way up, no circles. */
import type { Problem } from '../schema/index.ts';
import { dividesEvenly, isOnScale, rangeText } from './dialScale.ts';
import { equalizerBands } from './equalizer.ts';
import type { Dial, RigProfile } from './rig.ts';

/** All problems of a profile that has passed its schema; none when it can be used. */
export function rigProblems(rig: RigProfile): Problem[] {
  const ownProblems = rig.dials.flatMap((dial, i) => dialProblems(rig, dial, i));
  if (ownProblems.length > 0) return ownProblems;
  const needs = rig.dials.flatMap((dial, i) => needProblems(rig, dial, i));
  const circle = needs.length === 0 && hasCircle(rig) ? [{ place: 'dials', text: 'The dials wait for each other in a circle.' }] : [];
  return [...needs, ...circle, ...equalizerProblems(rig), ...passbandProblems(rig), ...alcProblems(rig)];
}

function dialProblems(rig: RigProfile, dial: Dial, i: number): Problem[] {
  const earlier = rig.dials.slice(0, i);
  const place = `dials.${i}`;
  const problems: Problem[] = [];
  if (earlier.some(({ id }) => id === dial.id)) problems.push({ place, text: `Two dials have the id "${dial.id}".` });
  const twin = dial.menu && earlier.find(({ menu }) => menu === dial.menu);
  if (twin) {
    problems.push({ place: `${place}.menu`, text: `Two dials have the menu address ${dial.menu}: ${twin.label} and ${dial.label}.` });
  }
  return [...problems, ...scaleProblems(dial, place)];
}

function scaleProblems({ id, label, scale, unit, rest }: Dial, place: string): Problem[] {
  const at = `${place}.scale`;
  if (scale.kind === 'steps') {
    if (scale.min > scale.max) return [{ place: at, text: `The range of dial "${id}" (${label}) is upside down.` }];
    if (!dividesEvenly(scale)) {
      return [{ place: at, text: `The steps of dial "${id}" (${label}) do not divide its range (or make too many positions).` }];
    }
  }
  if (scale.kind === 'values' && scale.values.some((value, i) => i > 0 && value <= scale.values[i - 1])) {
    return [{ place: at, text: `The values of dial "${id}" (${label}) are not in ascending order.` }];
  }
  if (isOnScale(scale, rest)) return [];
  return [
    {
      place: `${place}.rest`,
      text: `The factory value ${rest} of dial "${id}" (${label}) is not on its scale (${rangeText({ scale, unit })}).`,
    },
  ];
}

const has = (rig: RigProfile, id: string) => rig.dials.some((dial) => dial.id === id);
const labelOf = (rig: RigProfile, id: string) => rig.dials.find((dial) => dial.id === id)?.label ?? id;

function needProblems(rig: RigProfile, dial: Dial, i: number): Problem[] {
  return (dial.needs ?? []).flatMap((need, n) => {
    const place = `dials.${i}.needs.${n}`;
    const other = rig.dials.find(({ id }) => id === need.dial);
    if (!other) return [{ place, text: `Dial "${dial.id}" (${dial.label}) needs "${need.dial}", which does not exist.` }];
    const off = need.is.filter((value) => !isOnScale(other.scale, value));
    return off.map((value) => ({
      place,
      text: `${dial.label} waits for ${other.label} to be ${value}, which it can't be (${rangeText(other)}).`,
    }));
  });
}

function equalizerProblems(rig: RigProfile): Problem[] {
  const problems: Problem[] = [];
  const used = new Map<string, number>();
  for (const band of equalizerBands(rig)) {
    for (const part of [band.centre, band.level, band.width]) {
      if (typeof part !== 'string') continue;
      used.set(part, (used.get(part) ?? 0) + 1);
      if (!has(rig, part)) problems.push({ place: 'equalizer', text: `The equalizer uses dial "${part}", which does not exist.` });
      else if (rig.dials.find((dial) => dial.id === part)?.scale.kind === 'options') {
        problems.push({ place: 'equalizer', text: `The equalizer uses dial "${part}", which has no numbers.` });
      }
    }
  }
  for (const [id, count] of used) {
    if (count > 1) problems.push({ place: 'equalizer', text: `The equalizer uses dial "${id}" (${labelOf(rig, id)}) ${count} times.` });
  }
  const { equalizer } = rig;
  if (equalizer.kind === 'parametric' && equalizer.width.meaning === 'table' && !equalizer.width.table) {
    problems.push({ place: 'equalizer.width', text: 'The width meaning is "table", but the table is missing.' });
  }
  return problems;
}

function passbandProblems(rig: RigProfile): Problem[] {
  const problems = rig.passbands.flatMap((passband, i) => onePassband(rig, passband, `passbands.${i}`));
  for (const mode of rig.modes) {
    if (!rig.passbands.some((passband) => passband.modes.includes(mode))) {
      problems.push({ place: 'passbands', text: `No passband is given for ${mode}.` });
    }
  }
  return problems;
}

function onePassband(rig: RigProfile, passband: RigProfile['passbands'][number], place: string): Problem[] {
  const used = passband.kind === 'choice' ? [passband.dial] : passband.kind === 'edges' ? [passband.low, passband.high] : [];
  const missing = used.filter((id) => !has(rig, id));
  if (missing.length > 0) return missing.map((id) => ({ place, text: `The passband uses dial "${id}", which does not exist.` }));
  if (passband.kind === 'fixed') {
    const [low, high] = passband.edges;
    return low < high ? [] : [{ place, text: `The passband ${low} to ${high} Hz is upside down.` }];
  }
  if (passband.kind === 'edges') {
    const wordy = used.filter((id) => rig.dials.find((dial) => dial.id === id)?.scale.kind === 'options');
    return wordy.map((id) => ({ place, text: `The passband edge "${id}" (${labelOf(rig, id)}) has no numbers.` }));
  }
  const dial = rig.dials.find(({ id }) => id === passband.dial);
  const known = passband.edges.map(([option]) => option);
  const unknown = dial?.scale.kind === 'options' ? dial.scale.options.filter((option) => !known.includes(option)) : [];
  return [
    ...(dial?.scale.kind === 'options'
      ? []
      : [{ place, text: `The passband dial ${labelOf(rig, passband.dial)} must have named positions.` }]),
    ...unknown.map((option) => ({ place, text: `The passband choice "${option}" has no edges.` })),
    ...passband.edges
      .filter(([, low, high]) => low >= high)
      .map(([option]) => ({ place, text: `The passband choice "${option}" is upside down.` })),
  ];
}

function alcProblems({ alc }: RigProfile): Problem[] {
  const [low, high] = alc.zone;
  return low < high ? [] : [{ place: 'alc.zone', text: `The ALC zone ${low} to ${high} is upside down.` }];
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
