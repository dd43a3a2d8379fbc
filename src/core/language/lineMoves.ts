/** Clauses as moves on a card's dials and readings of its meters. */
import {
  type Card,
  type Dial,
  type DialValue,
  dialInRole,
  dialOf,
  type EqualizerBand,
  equalizerBands,
  nameOf,
  type RigProfile,
  stepFrom,
  valueOn,
  valueText,
} from '../rig/index.ts';
import { type Clause, fresh, hasAmount, hertz, type Target } from './clause.ts';
import {
  addressesBetween,
  bandDial,
  bandNumbered,
  bandsBetween,
  bandsIn,
  dialAt,
  dialsOf,
  equalizerSwitch,
  liveBands,
  NotUnderstood,
} from './dialNamed.ts';
import { checkFrom, landing, type Told } from './landing.ts';
import type { DialLine, LineContext, LineMove } from './line.ts';
import { bankWarnings, deadWarnings, skipped } from './lineWarnings.ts';
import { passbandTo } from './passbandWords.ts';
import { type MeterReading, meterOf, readingOf } from './readings.ts';

/** What bands and passbands can become. */
const isWidth = (value: Clause['value']): boolean =>
  value === 'wider' || value === 'narrower' || value === 'widest' || value === 'narrowest';

/** The moves and readings of a line as they add up, each read on the card as the ones before have left it. */
export class LineMoves {
  readonly told: Told = { explained: [], warnings: [] };
  private readonly moves: LineMove[] = [];
  private reading: MeterReading | null = null;
  private now: Card;
  private last: readonly LineMove[];

  constructor(
    private readonly rig: RigProfile,
    private readonly card: Card,
    private readonly context: LineContext,
  ) {
    this.now = card;
    this.last = context.lastMoves ?? [];
  }

  /** @throws NotUnderstood */
  take(clause: Clause): undefined {
    const { rig } = this;
    if (clause.kind === 'undo') return this.takeBack();
    if (clause.kind === 'distance') throw new NotUnderstood('The talking distance is on no dial: it is noted.');
    if (clause.kind !== 'do') return this.again(clause, HOW_FAR[clause.kind]);
    const meter = meterOf(clause, dialInRole(rig, 'power', this.card.mode) !== undefined);
    if (meter) {
      const { reading, explained } = readingOf(meter, clause, rig);
      this.reading = { ...this.reading, ...reading };
      this.told.explained.push(explained);
      return;
    }
    const targets = this.targetsOf(clause);
    if (!hasAmount(clause) && !this.isPassband(clause))
      throw new NotUnderstood(`What should I do with ${targets.map(({ name }) => name).join(', ')}? Give a value, or + or - steps.`);
    const taken = targets.flatMap((target) => this.turned(clause, target.target));
    if (taken.length > 0) this.last = taken;
  }

  /** To a question: where what it names stands. */
  answer(clauses: readonly Clause[]): string {
    const named = clauses.flatMap(({ targets }) => targets.filter(({ kind }) => kind !== 'meter')).flatMap((target) => this.meant(target));
    const stands = [...new Set(named)].map((dial) => `${nameOf(dial)} stands at ${valueText(dial, valueOn(this.now, dial))}.`);
    return ['A question: nothing is changed.', ...stands].join(' ');
  }

  private meant(target: Target): readonly Dial[] {
    if (target.kind === 'place') return dialsOf(this.rig, this.now, target.place);
    try {
      return this.dialsFor(fresh(), target).map(({ dial }) => dial);
    } catch (error) {
      if (error instanceof NotUnderstood) return [];
      throw error;
    }
  }

  private isPassband({ targets }: Clause): boolean {
    return targets.length === 1 && targets[0].kind === 'span';
  }

  /** What a clause is about; for an amount alone what was turned last. */
  private targetsOf(clause: Clause): { target: Target; name: string }[] {
    const { targets, value } = clause;
    if (targets.length > 0) return targets.map((target) => ({ target, name: nameOfTarget(target) }));
    if (value === 'narrowest' || value === 'widest' || value === 'wider' || value === 'narrower') {
      const place = dialInRole(this.rig, 'fm-width', this.card.mode) ? 'fm width' : 'passband';
      return [{ target: { kind: 'place', place }, name: place }];
    }
    if (value === 'flat') return [{ target: { kind: 'all' }, name: 'the equalizer' }];
    if (value === 'keep') return [];
    if (this.last.length === 0) throw new NotUnderstood('Which dial is meant? Name it: mic, comp, bw, or a frequency.');
    return this.last.map(({ dial }) => ({ target: { kind: 'dial', dial, isAddress: false }, name: dial.label }));
  }

  private takeBack(): undefined {
    for (const { dial, from } of this.moves.splice(0)) this.now = withValue(this.now, dial, from);
    this.told.explained.length = 0;
    this.told.warnings.length = 0;
  }

  /** The last moves once more: so many times as far again. */
  private again({ targets }: Clause, times: number): undefined {
    const last = this.last.filter(({ from, to }) => typeof from === 'number' && typeof to === 'number' && from !== to);
    if (last.length === 0) throw new NotUnderstood('There is no move before this one to do again.');
    if (targets.length > 0) {
      const [{ from, to }] = last.slice(-1);
      return this.take({ ...amountOf(Number(to) - Number(from)), targets });
    }
    this.last = last.flatMap(({ dial, from, to }) => {
      const clause = amountOf(inSteps(dial, times * (Number(to) - Number(from))));
      return this.move(
        dial,
        landing(dial, valueOn(this.now, dial), { clause, number: clause.numbers[0], isAbsolute: false }, null, this.told),
      );
    });
  }

  /** One target turned as the clause says. */
  private turned(clause: Clause, named: Target): LineMove[] {
    const { rig } = this;
    const target = asOneBand(rig, clause, named);
    const isPassband =
      target.kind === 'place' && (target.place === 'passband' || target.place === 'low cut' || target.place === 'high cut');
    if (
      isPassband &&
      (target.place === 'passband' ||
        dialsOf(rig, this.now, target.place).length !== 1 ||
        dialsOf(rig, this.now, target.place)[0].scale.kind === 'options')
    )
      return passbandTo(rig, this.now, clause).flatMap(([dial, to]) => this.move(dial, to));
    if (target.kind === 'span' && !hasAmount(clause)) {
      const numbers = [target.low, target.high].map((hz) => amountOf(hz).numbers[0]);
      return passbandTo(rig, this.now, { ...clause, numbers }).flatMap(([dial, to]) => this.move(dial, to));
    }
    if (
      target.kind === 'place' &&
      target.place === 'compressor' &&
      clause.numbers.length === 1 &&
      (clause.value === 'on' || clause.option === 'on')
    )
      return [...this.turned({ ...clause, numbers: [] }, target), ...this.turned({ ...clause, value: null, option: null }, target)];
    if (clause.numbers.length > 1) return this.filled(clause, target);
    if ((target.kind === 'hz' || target.kind === 'which') && isWidth(clause.value)) return this.widened(clause, target);
    return this.dialsFor(clause, target).flatMap(({ dial, also, isAddress }) =>
      this.set(clause, clause.numbers[0] ?? null, dial, also, isAddress, isMore(clause, target)),
    );
  }

  /** A band one step wider or narrower, whichever way its numbers run. */
  private widened({ value }: Clause, target: Extract<Target, { kind: 'hz' | 'which' }>): LineMove[] {
    const { rig, now } = this;
    const meaning = rig.equalizer.kind === 'parametric' ? rig.equalizer.width.meaning : 'unknown';
    const band = target.kind === 'which' ? bandNumbered(rig, now, target.which, target.bank) : this.bandAt(target.hz);
    const dial = bandDial(rig, band, 'width');
    if (meaning !== 'octaves' && meaning !== 'q')
      throw new NotUnderstood(`Whether a larger number of ${nameOf(dial)} is wider is not known: give the number.`);
    const isWider = value === 'wider' || value === 'widest';
    const steps = isWider === (meaning === 'octaves') ? 1 : -1;
    return this.move(dial, stepFrom(dial.scale, valueOn(now, dial), steps));
  }

  private set(
    clause: Clause,
    number: Clause['numbers'][number] | null,
    dial: Dial,
    also: readonly { dial: Dial; to: DialValue }[],
    isAddress: boolean,
    isRegion = false,
  ): LineMove[] {
    const from = valueOn(this.now, dial);
    checkFrom(clause, dial, this.rig, this.now, this.told);
    const isAbsolute = clause.isTo || (isAddress && clause.sign === 0);
    const before = this.context.before ? valueOn(this.context.before, dial) : null;
    const isVaguely = isRegion && clause.numbers.length === 0 && clause.vague === 0 && clause.value === null && clause.option === null;
    const said = isVaguely ? { ...clause, vague: 1 as const } : clause;
    const to = landing(dial, from, { clause: said, number, isAbsolute, isMore: isRegion && clause.vague < 2 }, before, this.told);
    if (clause.value === 'keep') {
      this.told.explained.push(`${nameOf(dial)} stays at ${valueText(dial, from)}.`);
      return [];
    }
    const beside = also.flatMap((each) => this.move(each.dial, each.to));
    return [...beside, ...this.move(dial, to)];
  }

  /** Several numbers after one name: a band's, a row of sliders', a run of menu addresses'. */
  private filled(clause: Clause, target: Target): LineMove[] {
    const dials = this.row(clause, target);
    if (dials.length !== clause.numbers.length)
      throw new NotUnderstood(
        `${clause.numbers.length} numbers for ${dials.length} dials: one is missing or too many. Nothing is changed.`,
      );
    return dials.flatMap((dial, k) => this.set({ ...clause, isTo: true, sign: 0 }, clause.numbers[k], dial, [], true));
  }

  private row(clause: Clause, target: Target): Dial[] {
    const { rig, now } = this;
    if (target.kind === 'addresses') return addressesBetween(rig, target.from, target.to);
    if (target.kind === 'which' || target.kind === 'hz') {
      const band = target.kind === 'which' ? bandNumbered(rig, now, target.which, target.bank) : this.bandAt(target.hz);
      const parts =
        clause.numbers.length === 2 && clause.numbers[0].value < 50
          ? (['level', 'width'] as const)
          : (['centre', 'level', 'width'] as const).slice(0, clause.numbers.length);
      return parts.map((part) => bandDial(rig, band, part));
    }
    const bands = liveBands(rig, now);
    const levels = bands.map((band) => dialOf(rig, band.level));
    const isAll = target.kind === 'all' || (target.kind === 'place' && target.place === 'equalizer');
    if (!isAll) throw new NotUnderstood(`Several numbers for ${nameOfTarget(target)}: which is meant?`);
    if (clause.numbers.length === levels.length || bands[0]?.shape !== 'bell') return levels;
    return bands.flatMap((band) =>
      (['centre', 'level', 'width'] as const).flatMap((part) => (typeof band[part] === 'string' ? [bandDial(rig, band, part)] : [])),
    );
  }

  private bandAt(hz: number): EqualizerBand {
    const { dial } = dialAt(this.rig, this.now, hz);
    const band = liveBands(this.rig, this.now).find(({ level }) => level === dial.id);
    if (!band) throw new NotUnderstood(`No band at ${hz} Hz.`);
    return band;
  }

  private dialsFor(clause: Clause, target: Target): { dial: Dial; also: readonly { dial: Dial; to: DialValue }[]; isAddress: boolean }[] {
    const { rig, now } = this;
    const plainly = (dials: readonly Dial[]) => dials.map((dial) => ({ dial, also: [], isAddress: false }));
    const levels = (bands: readonly EqualizerBand[]) => plainly(bands.map((band) => bandDial(rig, band, target.part ?? 'level')));
    const number = clause.numbers[0];
    const isCentre = clause.isRetune || number?.unit === 'hz' || number?.unit === 'khz';
    switch (target.kind) {
      case 'dial':
        return [{ dial: target.dial, also: [], isAddress: target.isAddress }];
      case 'addresses':
        return addressesBetween(rig, target.from, target.to).map((dial) => ({ dial, also: [], isAddress: true }));
      case 'hz':
        return this.atHertz(clause, target.hz, target.part);
      case 'which': {
        const band = bandNumbered(rig, now, target.which, target.bank);
        return plainly([
          bandDial(
            rig,
            band,
            target.part ?? (isCentre || (number && number.sign === 0 && number.value >= 80 && clause.sign === 0) ? 'centre' : 'level'),
          ),
        ]);
      }
      case 'region':
        return levels(bandsIn(rig, now, target.region));
      case 'span':
        return this.between(target.low, target.high);
      case 'all':
        return levels(liveBands(rig, now));
      case 'rest': {
        const moved = new Set(this.moves.map(({ dial }) => dial.id));
        return levels(liveBands(rig, now).filter(({ level }) => !moved.has(level)));
      }
      case 'place':
        return plainly(this.inPlace(clause, target.place));
      case 'meter':
        throw new NotUnderstood('A meter is read, not turned.');
    }
  }

  private between(low: number, high: number) {
    const { rig, now } = this;
    const bands = liveBands(rig, now);
    if (bands.length > 0 && bands[0].shape !== 'bell') {
      const knobs = [...(low < 400 ? [bands[0]] : []), ...(high > 1500 ? [bands[1]] : [])];
      return knobs.map((band) => ({ dial: dialOf(rig, band.level), also: [], isAddress: false }));
    }
    return bandsBetween(rig, now, low, high).map((band) => ({ dial: dialOf(rig, band.level), also: [], isAddress: false }));
  }

  private atHertz(clause: Clause, hz: number, part: Target['part']) {
    const { rig, now } = this;
    if (hz < 50 || hz > 6000) throw new NotUnderstood(`${hz} is neither a frequency of the voice nor a menu address of ${rig.name}.`);
    if (part && part !== 'level') return [{ dial: bandDial(rig, this.bandAt(hz), part), also: [], isAddress: false }];
    if (clause.isRetune) return [{ dial: bandDial(rig, this.bandAt(hz), 'centre'), also: [], isAddress: false }];
    const named = dialAt(rig, now, hz);
    if (named.remark) this.told.explained.push(named.remark);
    return [{ dial: named.dial, also: named.also, isAddress: false }];
  }

  private inPlace(clause: Clause, place: Extract<Target, { kind: 'place' }>['place']): readonly Dial[] {
    const { rig, now } = this;
    const dials = dialsOf(rig, now, place);
    const isZero = clause.numbers.length === 1 && clause.numbers[0].value === 0;
    if (place === 'equalizer' && (clause.value === 'flat' || isZero || (dials.length === 0 && clause.value === 'off')))
      return liveBands(rig, now).map(({ level }) => dialOf(rig, level));
    if (dials.length === 0) throw new NotUnderstood(`${rig.name} has no dial for the ${place} in this mode.`);
    if (dials.length === 1) return dials;
    // Two dials for one thing: a switch and an amount.
    const isSwitch = clause.option !== null || clause.value === 'on' || clause.value === 'off';
    const has = dials.find(
      ({ scale }) =>
        scale.kind === 'options' &&
        (clause.option === null ? scale.options.includes(String(clause.value)) : scale.options.includes(clause.option)),
    );
    return [isSwitch ? (has ?? dials[0]) : dials[dials.length - 1]];
  }

  /** Puts a move on the list, with the equalizer's switch where the dial waits for it. */
  private move(dial: Dial, to: DialValue): LineMove[] {
    const enabling = enablingMoves(this.rig, this.now, dial, this.told);
    const moves = [...enabling, { dial, from: valueOn(this.now, dial), to }];
    for (const each of moves) {
      this.told.explained.push(sentence(each));
      this.now = withValue(this.now, each.dial, each.to);
      const earlier = this.moves.findIndex((old) => old.dial.id === each.dial.id);
      if (earlier >= 0) this.moves.splice(earlier, 1, { ...this.moves[earlier], to: each.to });
      else this.moves.push(each);
    }
    return moves.slice(-1);
  }

  /** @throws NotUnderstood when nothing is left to do */
  result(clauses: readonly Clause[]): DialLine {
    const { rig, told } = this;
    const moves = this.moves.filter(({ from, to }) => from !== to);
    if (moves.length === 0 && this.reading === null && (told.warnings.length > 0 || told.explained.length === 0))
      throw new NotUnderstood(told.warnings[0] ?? 'This says nothing about a dial.');
    const warnings = [
      ...told.warnings,
      ...skipped(rig, clauses),
      ...bankWarnings(rig, this.card, this.now),
      ...deadWarnings(rig, this.now, moves),
    ];
    return { kind: 'do', moves, reading: this.reading, explained: told.explained, warnings };
  }
}

/** "low: 150 Hz, -6 dB" names the band, not the part of the voice. */
function asOneBand(rig: RigProfile, { numbers }: Clause, target: Target): Target {
  const isBand =
    target.kind === 'region' &&
    rig.equalizer.kind === 'parametric' &&
    (numbers.length > 1 || numbers[0]?.unit === 'hz' || numbers[0]?.unit === 'khz' || target.part);
  if (!isBand) return target;
  const which = target.region.startsWith('low') ? 'low' : target.region.startsWith('high') ? 'high' : 'mid';
  return { kind: 'which', which, ...(target.part && { part: target.part }), ...(target.bank && { bank: target.bank }) };
}

const withValue = (card: Card, dial: Dial, to: DialValue): Card => ({ ...card, values: { ...card.values, [dial.id]: to } });

/** What is said of the moves before: as far again, half of it back, or as far to the other side of where it was. */
const HOW_FAR = { again: 1, 'half back': -0.5, 'other way': -2 } as const;

/** Whole steps of the dial, and half a step counts as one. */
function inSteps({ scale }: Dial, by: number): number {
  const step = scale.kind === 'steps' ? scale.step : 1;
  return Math.sign(by) * Math.round(Math.abs(by) / step) * step;
}

/** Where no direction said means more: "some top", "a touch of compression". */
const isMore = ({ vague }: Clause, target: Target): boolean =>
  target.kind === 'region' || target.kind === 'span' || (target.kind === 'place' && target.place === 'compressor' && vague > 0);

/** A clause that goes by a number. */
const amountOf = (by: number): Clause => ({ ...fresh(), numbers: [{ ...hertz(Math.abs(by)), unit: null, sign: by < 0 ? -1 : 1 }] });

function nameOfTarget(target: Target): string {
  switch (target.kind) {
    case 'dial':
      return target.dial.label;
    case 'hz':
      return String(target.hz);
    case 'span':
      return `${target.low} to ${target.high} Hz`;
    case 'region':
      return `the ${target.region}`;
    case 'place':
      return target.place;
    case 'meter':
      return target.meter;
    case 'which':
      return `band ${target.which}`;
    default:
      return 'the equalizer';
  }
}

/** With the equalizer off, advice on a band switches it on: that is what was meant. */
function enablingMoves(rig: RigProfile, card: Card, dial: Dial, told: Told): LineMove[] {
  const master = equalizerSwitch(rig);
  const isBand = equalizerBands(rig).some((band) => [band.level, band.centre, band.width].includes(dial.id));
  const need = dial.needs?.find((each) => each.dial === master?.id);
  if (!master || !need || !isBand || need.is.includes(valueOn(card, master))) return [];
  told.warnings.push(`${nameOf(master)} was ${valueOn(card, master)}; it is switched ${need.is[0]} as well.`);
  return [{ dial: master, from: valueOn(card, master), to: need.is[0] }];
}

const sentence = ({ dial, from, to }: LineMove): string =>
  from === to ? `${nameOf(dial)} stays at ${valueText(dial, to)}.` : `${nameOf(dial)}: ${valueText(dial, from)} → ${valueText(dial, to)}.`;
