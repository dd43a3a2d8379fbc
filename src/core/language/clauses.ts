/** Tokens of a line as clauses. Knows the rig's names, not its values. */
import type { Hertz } from '../units/index.ts';
import {
  asHz,
  type Clause,
  fresh,
  hasAmount,
  hertz,
  isBandTarget,
  isFrequency,
  isHz,
  isOneBand,
  LEAST_HZ,
  type Names,
  type Target,
} from './clause.ts';
import { aheadOf, isAmountAt, isLevelAhead, isNameAt, isTurnedAt, labelAt, optionAt } from './lookahead.ts';
import { type BandPart, type Item, phrasesAt, type ValueWord } from './phrases.ts';
import { type NumberToken, type Token, unitOf } from './tokens.ts';

/** A number that can only be a frequency: "2400", "2.4", "2k". */
const isPlace = (token: NumberToken): boolean =>
  token.sign === 0 && (isHz(token) || token.value >= LEAST_HZ || (token.unit === null && !token.isPart && !Number.isInteger(token.value)));

/** Bands of an equalizer that go by number; a higher one is a menu address. */
const MOST_NUMBERED = 12;

/** Reads clauses off the tokens, one after another. */
class Reader {
  readonly clauses: Clause[] = [];
  readonly unread: string[] = [];
  private now = fresh();
  private at = 0;
  /** The one band of the clause before: "eq1: 150, level -6, width 4". */
  private band: Target | null = null;
  /** What the next number or name is: a frequency, an edge, where the dial was. */
  private next: 'target' | 'below' | 'above' | 'between' | 'from' | null = null;
  private part: BandPart | null = null;
  private bank: string | null = null;
  /** The direction was a verb, whose object may still follow: "raise 37 to 4". */
  private isVerb = false;
  private isVerbFirst = false;
  private rowSign: -1 | 0 | 1 = 0;
  /** "everything from 2k": up or down says which side. */
  private isOpen = false;
  /** A comma or an "and" since the last thing named. */
  private isList = false;
  /** "alc between .3 and .5": a second number belongs to it. */
  private isMeterRange = false;

  constructor(
    private readonly tokens: readonly Token[],
    private readonly names: Names,
  ) {}

  read(): this {
    while (this.at < this.tokens.length) this.step();
    this.close();
    return this;
  }

  private get isComplete(): boolean {
    return this.now.targets.length > 0 && hasAmount(this.now);
  }

  /** A named position may follow: nothing is said yet of where the dial goes. */
  private get mayBeOption(): boolean {
    const { now } = this;
    return now.option === null && (!hasAmount(now) || now.sign !== 0 || now.value === 'keep');
  }

  /** "compressor in": how far may follow. */
  private get isSwitchedOn(): boolean {
    const { now, last } = this;
    const isOn = now.value === 'on' || now.option === 'on';
    return isOn && last?.kind === 'place' && last.place === 'compressor' && now.numbers.length === 0;
  }

  /** Named is what has a switch, and nothing is said of it yet. */
  private get isSwitch(): boolean {
    const { last } = this;
    return last?.kind === 'place' && (last.place === 'compressor' || last.place === 'equalizer') && !hasAmount(this.now);
  }

  private get last(): Target | undefined {
    return this.now.targets.at(-1);
  }

  /** Ends the clause; names alone after "3 up at 500, 1k" belong to what was said before. */
  private close(): undefined {
    const { now } = this;
    this.band = now.targets.length === 1 && (now.targets[0].kind === 'hz' || isOneBand(now.targets[0])) ? now.targets[0] : null;
    this.next = null;
    this.part = null;
    this.bank = null;
    this.isList = false;
    this.isMeterRange = false;
    this.isVerb = false;
    this.isVerbFirst = false;
    this.rowSign = 0;
    this.isOpen = false;
    this.now = fresh();
    if (now.kind === 'do' && now.targets.length === 0 && !hasAmount(now)) return;
    const before = this.clauses.at(-1);
    const isOrphan = !hasAmount(now) && now.targets.every(({ kind }) => kind !== 'meter');
    if (before?.isAmountFirst && isOrphan && now.kind === 'do') before.targets.push(...now.targets);
    else this.clauses.push(now);
  }

  private step(): undefined {
    const token = this.tokens[this.at];
    if (token.kind === 'mark') return this.mark(token.text);
    if (token.kind === 'number') return this.number(token);
    const label = labelAt(this.tokens, this.at, this.names);
    const option = this.mayBeOption && this.last ? optionAt(this.tokens, this.at, this.names.options(this.last)) : null;
    const phrases = phrasesAt(this.tokens, this.at);
    const [first] = phrases;
    if (option && option.length >= (first?.length ?? 0)) {
      this.now.option = option.text;
      if (this.now.value === 'keep') this.now.value = null;
      this.at += option.length;
      return;
    }
    if (label && label.length > (first?.length ?? 0)) {
      this.at += label.length;
      return this.target({ kind: 'dial', dial: label.dial, isAddress: false });
    }
    if (token.isAddress) {
      const dial = this.names.addressed(token.text.replace(/^#/, ''));
      this.at++;
      if (dial) return this.target({ kind: 'dial', dial, isAddress: true });
    }
    const band = /^(?:eq|band|slider|b)(\d{1,2})$/.exec(token.text);
    if (band) {
      this.at++;
      return this.target({ kind: 'which', which: Number(band[1]) });
    }
    if (this.names.banks.includes(token.text) && (this.last?.kind === 'which' || this.bankWord())) return this.named(token.text);
    const unit = unitOf(token.text);
    const [number] = this.now.numbers;
    if (unit !== null && number?.unit === null && !first) {
      // "two more clicks"
      this.now.numbers[0] = { ...number, unit };
      this.at++;
      return;
    }
    if (!first) {
      const dial = this.names.hinted(token.text);
      this.at++;
      if (dial) return this.target({ kind: 'dial', dial, isAddress: false });
      this.unread.push(token.text);
      return;
    }
    const start = this.at;
    this.at += first.length;
    this.item(
      first.item,
      this.tokens
        .slice(start, this.at)
        .map(({ text }) => text)
        .join(' '),
    );
  }

  /** "bank n" before or after. */
  private bankWord(): boolean {
    const before = this.tokens[this.at - 1];
    return before?.kind === 'word' && before.text === 'bank';
  }

  private named(bank: string): undefined {
    this.at++;
    const { last } = this;
    if (last?.kind === 'which') this.now.targets.splice(-1, 1, { ...last, bank });
    else this.bank = bank;
  }

  private mark(text: string): undefined {
    this.at++;
    if (text === ',' || text === ';' || text === '\n') return this.separate(text !== ',');
    if (text === '~') return this.to('~');
    this.to(text);
  }

  private separate(isStrong: boolean): undefined {
    if (!isStrong && this.isMeterRange) return;
    const ahead = aheadOf(this.tokens, this.at);
    if (!isStrong && (this.isBandRow() || (this.isSwitchedOn && isLevelAhead(this.tokens, this.at)))) return;
    const [place] = this.now.targets;
    if (
      !isStrong &&
      place?.kind === 'place' &&
      place.place === 'passband' &&
      this.now.numbers.length === 1 &&
      ahead?.kind === 'number' &&
      isFrequency(ahead)
    )
      return;
    if (!isStrong && this.isOpenList && (ahead?.kind === 'number' || isNameAt(this.tokens, this.at))) {
      this.isList = true;
      return;
    }
    if (this.isComplete || this.now.kind !== 'do' || (isStrong && (this.now.targets.length > 0 || hasAmount(this.now)))) this.close();
    else this.isList = true;
  }

  /** "drop 600 and 1000 by 2": the verb came first, its amount is still to come. */
  private get isOpenList(): boolean {
    const { now } = this;
    return (
      this.isVerbFirst && now.targets.length > 0 && now.numbers.length === 0 && now.vague === 0 && now.value === null && now.option === null
    );
  }

  private get isComma(): boolean {
    const before = this.tokens[this.at - 2];
    return before?.kind === 'mark' || (before?.kind === 'word' && before.text === 'and');
  }

  /** "eq1: 150 Hz, -6 dB": the level after a comma is the same band's. */
  private isBandRow(): boolean {
    const { last, now } = this;
    const ahead = this.tokens[this.at];
    const [centre] = now.numbers;
    if (!last || !isOneBand(last) || now.numbers.length === 0 || now.numbers.length > 2 || !centre || ahead?.kind !== 'number')
      return false;
    const isCentre = isHz(centre) || (centre.value >= 80 && centre.sign === 0);
    return (
      isCentre &&
      (now.numbers.length === 2
        ? ahead.sign === 0 && ahead.value < 50 && !isAmountAt(this.tokens, this.at, this.isVerb, ahead)
        : ahead.sign !== 0 || ahead.unit === 'db')
    );
  }

  /** "to", "=", an arrow or a dash: a range, two edges, from one value to another, or where it goes. */
  private to(how: string): undefined {
    const { now, last } = this;
    const ahead = aheadOf(this.tokens, this.at);
    const isPlain = how === 'to' || how === '~' || how === 'through';
    // "add 3 to 2400"
    const isAdded = how === 'to' && now.targets.length === 0 && now.numbers.length > 0 && now.sign !== 0;
    if (isAdded && ahead?.kind === 'number' && isPlace(ahead)) {
      this.next = 'target';
      return;
    }
    if (last?.kind === 'place' && last.place === 'passband' && now.numbers.length === 1) return;
    if (last?.kind === 'meter' && now.numbers.length === 1) {
      this.isMeterRange = true;
      return;
    }
    if (last?.kind === 'dial' && last.isAddress && isPlain && ahead?.kind === 'number' && this.addressAhead(how === 'to')) return;
    if (
      isPlain &&
      last?.kind === 'hz' &&
      (now.numbers.length === 0 || now.isAmountFirst) &&
      ahead?.kind === 'number' &&
      !now.isRetune &&
      isFrequency(ahead) &&
      asHz(ahead, last.hz) > last.hz
    ) {
      this.at = this.tokens.indexOf(ahead) + 1;
      now.targets.splice(-1, 1, { kind: 'span', low: last.hz, high: asHz(ahead, last.hz) });
      return;
    }
    const [number] = now.numbers;
    if (number && now.sign === 0 && number.sign === 0 && ahead?.kind === 'number' && now.targets.length > 0) {
      now.from = number;
      now.numbers = [];
    }
    now.isTo = true;
  }

  /** "41-49": every address between. @returns whether it was one */
  private addressAhead(needsColon: boolean): boolean {
    const { last } = this;
    const [ahead, after] = this.tokens.slice(this.at);
    if (last?.kind !== 'dial' || ahead?.kind !== 'number' || (needsColon && !(after?.kind === 'mark' && /[:=]/.test(after.text))))
      return false;
    const to = this.names.addressed(ahead.text.split(' ')[0]);
    if (!to) return false;
    this.at++;
    this.now.targets.splice(-1, 1, { kind: 'addresses', from: last.dial, to });
    return true;
  }

  private target(target: Target): undefined {
    // "alc is in the middle"
    if (this.last?.kind === 'meter' && !hasAmount(this.now) && target.kind === 'region' && target.region === 'mids')
      return void this.now.numbers.push({ ...hertz(0.5), unit: null, isPart: true });
    if (this.last?.kind === 'all' && this.now.numbers.length === 0) {
      if (target.kind === 'place' && target.place === 'equalizer') return;
      // "cut everything below 300"
      if (isBandTarget(target)) this.now.targets.pop();
    } else if (this.isComplete && !(this.isOpenList && this.isList)) this.close();
    if (!this.isComplete && this.now.targets.length === 0 && hasAmount(this.now)) this.now.isAmountFirst = true;
    const { last } = this;
    this.next = null;
    if (target.kind === 'place' && target.place === 'passband' && last?.kind === 'span') {
      this.now.targets.splice(-1, 1, target);
      this.now.numbers.push(hertz(last.low), hertz(last.high));
      return;
    }
    this.now.targets.push({ ...target, ...(this.part && { part: this.part }), ...(this.bank && { bank: this.bank }) });
    this.part = null;
    this.bank = null;
    this.isVerb = false;
  }

  private number(token: NumberToken): undefined {
    this.at++;
    const { now, last } = this;
    const hz = asHz(token, 0);
    if (this.next === 'between' && last?.kind === 'meter') {
      this.next = null;
      this.isMeterRange = true;
      now.numbers.push(token);
      return;
    }
    if (this.next === 'below' || this.next === 'above') {
      const span: Target = this.next === 'below' ? { kind: 'span', low: 0, high: hz } : { kind: 'span', low: hz, high: 20_000 };
      return this.target(span);
    }
    if (this.next === 'between') {
      if (last?.kind !== 'hz') return this.between(hz);
      now.targets.splice(-1, 1, { kind: 'span', low: Math.min(last.hz, hz), high: Math.max(last.hz, hz) });
      this.next = null;
      return;
    }
    if (this.next === 'from' && last?.kind === 'all' && isFrequency(token)) {
      this.target({ kind: 'hz', hz });
      this.isOpen = true;
      return;
    }
    if (this.next === 'from' && now.targets.length > 0 && !isHz(token)) {
      now.from = token;
      this.next = null;
      return;
    }
    if (this.bandNumber(token)) return;
    const isAwaited = now.numbers.length === 0 && now.value === null && now.option === null && (now.sign !== 0 || now.isTo) && !this.isVerb;
    const isNameNext =
      !isAwaited && !this.isSwitchedOn && (now.targets.length === 0 || this.isComplete || (this.isList && now.numbers.length === 0));
    const address = this.addressOf(token);
    const dial =
      address !== null && isNameNext && !isAmountAt(this.tokens, this.at, this.isVerb, token) ? this.names.addressed(address) : undefined;
    if (dial && !this.takesMore()) {
      if (token.unit) this.now.vague = 0;
      return this.target({ kind: 'dial', dial, isAddress: true });
    }
    if (this.next === 'target' && token.sign === 0 && (now.targets.length === 0 || hasAmount(now))) return this.frequency(hz);
    if (now.value === 'keep' && now.targets.length > 0) {
      // "keep the mic at 40"
      now.value = null;
      now.isTo = true;
    }
    if (now.targets.length === 0) return this.leading(token, hz);
    // "compressor in at three": switched on, and how far.
    if (this.isSwitchedOn) {
      now.isTo = true;
      now.numbers.push(token);
      return;
    }
    if (this.isComplete && (now.numbers.length > 0 || now.value !== null || now.option !== null)) {
      if (this.takesMore()) {
        now.numbers.push(token.sign === 0 && this.rowSign !== 0 ? { ...token, sign: this.rowSign } : token);
        this.rowSign = 0;
      } else {
        this.close();
        this.at--;
        this.isList = false;
      }
      return;
    }
    const isRow = !now.isTo && !now.isRetune && (now.sign === 0 || (this.isOpenList && this.isList));
    const isListed = isRow && last?.kind === 'hz' && !last.part && isFrequency(token);
    if (isListed) return this.frequency(hz);
    now.numbers.push(token);
  }

  private between(hz: Hertz): undefined {
    this.target({ kind: 'hz', hz });
    this.next = 'between';
  }

  private frequency(hz: Hertz): undefined {
    this.next = null;
    this.target({ kind: 'hz', hz });
  }

  /** A number as a menu address: as it is typed, or spoken behind "menu". */
  private addressOf(token: NumberToken): string | null {
    if (token.isAddress) return token.text.split(' ')[0];
    const before = this.tokens[this.at - 2];
    const isMenuSaid = before?.kind === 'word' && /^(?:menu|item|address|setting|function|parameter)$/.test(before.text);
    return isMenuSaid && token.sign === 0 && Number.isInteger(token.value) ? String(token.value) : null;
  }

  /** "eq 2", "band 3", "slider 400". */
  private bandNumber(token: NumberToken): boolean {
    const before = this.tokens[this.at - 2];
    if (before?.kind !== 'word' || token.sign !== 0 || token.isPart || !Number.isInteger(token.value) || isHz(token)) return false;
    const isBand = /^(?:eq|band|slider|fader|number)$/.test(before.text);
    // "eq 31 3" on a radio whose menu has a 31
    if (before.text === 'eq' && token.value > MOST_NUMBERED && this.names.addressed(String(token.value))) {
      if (this.last?.kind === 'place' && this.last.place === 'equalizer') this.now.targets.pop();
      return false;
    }
    if (!isBand || token.value < 1 || token.value > 31) return false;
    // "eq 2 1 0 -2 -1 2 5 8": a row of sliders
    if (before.text === 'eq' && [0, 1, 2, 3].every((k) => this.tokens[this.at + k]?.kind === 'number')) return false;
    const { last } = this;
    // "the high band 3": the band is named already.
    if (last?.kind === 'which' && !hasAmount(this.now)) return false;
    if (before.text === 'eq' && last?.kind === 'place' && last.place === 'equalizer') this.now.targets.pop();
    this.target({ kind: 'which', which: token.value });
    return true;
  }

  /** A number before any name: an amount, or a frequency. */
  private leading(token: NumberToken, hz: Hertz): undefined {
    const isKilohertz = token.unit === null && token.sign === 0 && !token.isPart && token.value < 10 && !Number.isInteger(token.value);
    if (isHz(token) || (token.unit === null && token.sign === 0 && !token.isPart && token.value >= LEAST_HZ)) return this.frequency(hz);
    if (isKilohertz && (this.isVerb || (this.now.sign === 0 && isTurnedAt(this.tokens, this.at))))
      return this.frequency(token.value * 1000);
    this.now.numbers.push(token);
  }

  /** Whether what is named takes several numbers. */
  private takesMore(): boolean {
    const { last, now } = this;
    if (now.numbers.length === 0 && !this.isComplete) return false;
    if (!last || now.targets.length > 1 || last.part) return false;
    if (last.kind === 'addresses') return true;
    if (isOneBand(last)) return now.numbers.length < 3 && !this.startsAnother();
    if (last.kind === 'place') return last.place === 'equalizer' || (last.place === 'passband' && now.numbers.length < 2);
    return last.kind === 'all' || (last.kind === 'meter' && (last.meter === 'swr' || this.isMeterRange) && now.numbers.length < 2);
  }

  /** "low -3 mid 0": the number is followed by a turn or a preposition of its own. */
  private startsAnother(): boolean {
    const token = this.tokens[this.at - 1];
    return token?.kind === 'number' && isAmountAt(this.tokens, this.at, this.isVerb, { ...token, unit: null });
  }

  private item(item: Item, text: string): undefined {
    const { now } = this;
    switch (item.kind) {
      case 'filler':
        // "400 ok, 600 minus 2"
        if (/^ok(?:ay)?$/.test(text) && this.last && !hasAmount(now) && aheadOf(this.tokens, this.at)?.kind === 'mark') now.value = 'keep';
        return;
      case 'than':
      case 'band':
      case 'menu':
        return;
      case 'place':
      case 'region':
      case 'which':
      case 'all':
      case 'rest':
      case 'meter':
        return this.target(item as Target);
      case 'part':
        return this.partNamed(item.part);
      case 'value':
        return this.valued(item.value, text);
      case 'turn':
        // "drop your 200 by another 3"
        if (text === 'another' && now.sign !== 0) return;
        // "the compressor back in" is a switch, "the bass back in" is more of it.
        return text === 'back in' && this.isSwitch ? this.preposition('in') : this.turned(item.sign, item.isVerb);
      case 'hotter':
        if (this.isComplete && now.sign !== 0) this.close();
        if (this.now.targets.length === 0) this.target({ kind: 'place', place: 'mic' });
        this.now.sign = 1;
        return;
      case 'vague':
        // "widen the high band a little"
        if (now.value === 'wider' || now.value === 'narrower') return;
        if (this.isComplete && now.sign === 0 && (now.numbers.length > 0 || now.value !== null)) this.close();
        if (this.now.numbers.length === 0) this.now.vague = item.size;
        return;
      case 'to':
        // "the eq is on" is a switch, "2400 is on 3" a value.
        if (text === 'is on' && this.isSwitch && aheadOf(this.tokens, this.at)?.kind !== 'number') return this.valued('on', 'on');
        return this.to(text === 'to' ? 'to' : 'at');
      case 'by':
        now.isTo = false;
        return;
      case 'through':
        return this.to('through');
      case 'at':
      case 'on the':
      case 'off the':
      case 'in':
        return this.preposition(item.kind);
      case 'out':
        return this.out();
      case 'or more':
      case 'or less':
        if (this.last?.kind === 'hz' && !hasAmount(now)) this.side(item.kind === 'or more' ? 1 : -1);
        else if (item.kind === 'or more') this.turned(1, false);
        else this.turned(-1, false);
        return;
      case 'back':
        if (now.sign === 0 && !this.isComplete) now.sign = -1;
        return;
      case 'below':
      case 'above':
        // "just under half" on a meter is near enough.
        if (this.last?.kind !== 'meter') this.next = item.kind;
        return;
      case 'from':
      case 'between':
        this.next = item.kind;
        return;
      case 'reads':
        now.isReading = true;
        now.isTo = true;
        return;
      case 'again':
      case 'half back':
      case 'other way':
      case 'distance':
      case 'undo':
        return this.whole(item.kind, text);
      case 'and':
        return this.separate(false);
      case 'then':
        return this.separate(true);
      case 'retune':
        if (this.isComplete) this.close();
        this.now.isRetune = true;
    }
  }

  private preposition(kind: 'at' | 'on the' | 'off the' | 'in'): undefined {
    const { now, last } = this;
    if (kind === 'off the' && now.sign === 0 && now.numbers.length > 0 && now.numbers[0].sign === 0 && now.targets.length === 0)
      now.sign = -1;
    // "keep the gain at 4"
    if (this.isSwitchedOn || (last && now.value === 'keep')) now.isTo = true;
    else if (kind === 'in' && this.isSwitch) now.value = 'on';
    else if (last && !hasAmount(now)) now.isTo = true;
    else this.next = 'target';
  }

  /** "the compressor out" is off; "the mids out" is less of them. */
  private out(): undefined {
    const { now, last } = this;
    if (last?.kind === 'place' && now.numbers.length === 0 && now.value === null && now.option === null) {
      now.sign = 0;
      now.value = 'off';
    } else if (last && !hasAmount(now)) now.sign = -1;
  }

  private partNamed(part: BandPart): undefined {
    const { last } = this;
    const isBand = last !== undefined && (last.kind === 'hz' || isOneBand(last));
    if (isBand && this.isComplete) {
      const target = last;
      this.close();
      this.target({ ...target, part });
    } else if (!last && this.band && this.isComma) this.target({ ...this.band, part });
    else if (isBand) this.now.targets.splice(-1, 1, { ...last, part });
    else if (part === 'width' && this.tokens[this.at + 1]?.kind === 'mark' && aheadOf(this.tokens, this.at)?.kind === 'number')
      this.target({ kind: 'place', place: 'passband' });
    else if (!(part === 'level' && this.isSwitchedOn)) this.part = part;
  }

  private valued(value: ValueWord, text: string): undefined {
    const { now } = this;
    if (value === 'before' && now.targets.length === 0 && !hasAmount(now)) return this.whole('undo', text);
    // "alc .4 on a sustained word"
    if (value === 'on' && text === 'on' && this.last?.kind === 'meter' && now.numbers.length > 0) return;
    if (value === 'on' && text === 'on' && now.targets.length === 0 && hasAmount(now)) {
      this.next = 'target';
      return;
    }
    if (value === 'off' && text === 'off' && (now.numbers.length > 0 || now.sign < 0)) {
      if (now.sign === 0) now.sign = -1;
      return;
    }
    if (this.isComplete && now.value !== 'keep') this.close();
    this.now.value = value;
  }

  private turned(sign: 1 | -1, isVerb: boolean): undefined {
    const { now, last } = this;
    if (this.isOpen && last?.kind === 'hz' && !isVerb) return this.side(sign);
    const isSaid = now.sign !== 0 || now.value !== null || now.isTo || (isVerb && now.numbers.length > 0) || now.option !== null;
    if (this.isComplete && isSaid && (isVerb || now.sign !== sign)) this.close();
    // "the mid band 1.2k, down 3": the direction is that of the level after the centre.
    const [centre] = this.now.numbers;
    if (last && isOneBand(last) && this.now.numbers.length === 1 && (isHz(centre) || (centre.value >= 80 && centre.sign === 0))) {
      this.rowSign = sign;
      return;
    }
    // "want to try 2 less at 1k": by 2, not to 2.
    if (this.now.numbers.length === 0 || this.now.targets.length === 0) this.now.isTo = false;
    if (this.now.numbers[0]?.sign) return;
    this.now.sign = sign;
    this.isVerb = isVerb && this.now.targets.length === 0;
    this.isVerbFirst = this.isVerb && this.now.numbers.length === 0;
  }

  /** "2k and up", "300 and below". */
  private side(sign: 1 | -1): undefined {
    const { last } = this;
    if (last?.kind === 'hz')
      this.now.targets.splice(-1, 1, sign > 0 ? { kind: 'span', low: last.hz, high: 20_000 } : { kind: 'span', low: 0, high: last.hz });
    this.isOpen = false;
  }

  private whole(kind: Exclude<Clause['kind'], 'do'>, text: string): undefined {
    if (kind === 'undo' && this.now.targets.length > 0 && !hasAmount(this.now) && /^back /.test(text)) {
      this.now.value = 'before';
      return;
    }
    const before = this.clauses.at(-1);
    const isBefore = this.now.targets.length === 0 && ['at', 'on the'].includes(phrasesAt(this.tokens, this.at)[0]?.item.kind ?? '');
    if (kind === 'again' && before && !hasAmount(this.now) && (this.now.targets.length > 0 || isBefore)) {
      // "600 down 2 and 1000 the same", "and the same at 1000"
      const { numbers, sign, isTo, vague, value, option } = before;
      Object.assign(this.now, { numbers: [...numbers], sign, isTo, vague, value, option });
      return;
    }
    if (kind === 'again' && isBefore && this.now.targets.length === 0 && !hasAmount(this.now)) {
      // "same again on the two hundred"
      this.now.kind = 'again';
      return;
    }
    if (/^(?:too|as well)$/.test(text)) {
      // "too much bass" is no request for more of it.
      const after = this.tokens[this.at];
      if (after !== undefined && after.kind !== 'mark') this.unread.push(text);
      return;
    }
    // "go 2 back the other way": which way is said already.
    if (kind === 'other way' && hasAmount(this.now)) return;
    if (this.now.targets.length > 0 || hasAmount(this.now)) this.close();
    this.now.kind = kind;
    this.close();
  }
}

/** Reads the clauses of a line. Words that say nothing to anybody are in `unread`. */
export function clausesOf(tokens: readonly Token[], names: Names): { clauses: Clause[]; unread: string[] } {
  const { clauses, unread } = new Reader(tokens, names).read();
  return { clauses, unread };
}
