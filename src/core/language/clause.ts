/** Clauses of advice: what is to be turned, and where to or by how much. Names only; a rig gives them their meaning. */
import type { Dial } from '../rig/index.ts';
import type { Hertz } from '../units/index.ts';
import type { BandPart, Meter, Place, Region, ValueWord } from './phrases.ts';
import type { NumberToken } from './tokens.ts';

/** What is to be turned or read. */
export type Target = {
  /** Centre, level or width of a band, where that was said. */
  readonly part?: BandPart;
  /** The bank, where it was named. */
  readonly bank?: string;
} & (
  | { readonly kind: 'dial'; readonly dial: Dial; readonly isAddress: boolean }
  | { readonly kind: 'addresses'; readonly from: Dial; readonly to: Dial }
  | { readonly kind: 'hz'; readonly hz: Hertz }
  | { readonly kind: 'span'; readonly low: Hertz; readonly high: Hertz }
  | { readonly kind: 'region'; readonly region: Region }
  | { readonly kind: 'which'; readonly which: 'low' | 'mid' | 'high' | number }
  | { readonly kind: 'all' | 'rest' }
  | { readonly kind: 'place'; readonly place: Place }
  | { readonly kind: 'meter'; readonly meter: Meter }
);

/** One thing to do. */
export interface Clause {
  targets: Target[];
  numbers: NumberToken[];
  /** Where the dial was said to be before. */
  from: NumberToken | null;
  /** Direction of the change; 0 where none was said. */
  sign: -1 | 0 | 1;
  /** A value to go to rather than an amount to go by. */
  isTo: boolean;
  vague: 0 | 1 | 2;
  value: ValueWord | null;
  /** A named position of the dial. */
  option: string | null;
  /** A band is moved to another frequency. */
  isRetune: boolean;
  isReading: boolean;
  /** The amount stood before what it is for. */
  isAmountFirst: boolean;
  kind: 'do' | 'again' | 'half back' | 'other way' | 'undo' | 'distance';
}

/** What the names of this rig are. */
export interface Names {
  /** The dial whose label these words are. */
  readonly labelled: (words: string) => Dial | undefined;
  /** The one dial whose label has this word. */
  readonly hinted: (word: string) => Dial | undefined;
  readonly addressed: (menu: string) => Dial | undefined;
  readonly banks: readonly string[];
  /** Named positions of what a target means. */
  readonly options: (target: Target) => readonly string[];
}

/** Numbers from here on are frequencies where no unit is said. */
export const LEAST_HZ = 50;

/** A clause that says nothing yet. */
export const fresh = (): Clause => ({
  targets: [],
  numbers: [],
  from: null,
  sign: 0,
  isTo: false,
  vague: 0,
  value: null,
  option: null,
  isRetune: false,
  isReading: false,
  isAmountFirst: false,
  kind: 'do',
});

/** Said in hertz or kilohertz. */
export const isHz = ({ unit }: NumberToken): boolean => unit === 'hz' || unit === 'khz';
/** One band of several that can be given as "150 Hz, -6 dB, 4". */
export const isOneBand = ({ kind }: Target): boolean => kind === 'which' || kind === 'region';
/** Names that mean bands. */
export const isBandTarget = (target: Target | undefined): boolean =>
  target !== undefined && ['hz', 'which', 'region', 'span', 'all', 'rest'].includes(target.kind);

/** Whether it says where to, or by how much. */
export const hasAmount = ({ numbers, value, option, vague, sign }: Clause): boolean =>
  numbers.length > 0 || value !== null || option !== null || vague > 0 || sign !== 0;

/** Letters and digits only, as labels are compared. */
export const simple = (text: string): string =>
  text
    .toLowerCase()
    .replace(/[−–—]/g, '-')
    .replace(/[^a-z0-9]+/g, ' ')
    .trim();

/** A number that can be a frequency of the voice: hertz, or kilohertz with a point. */
export const isFrequency = (token: NumberToken): boolean =>
  token.sign === 0 &&
  !token.isPart &&
  (isHz(token) || (token.unit === null && (token.value >= LEAST_HZ || (token.value < 10 && !Number.isInteger(token.value)))));

/** A number as a frequency: a small one is in kilohertz. */
export const asHz = ({ value, unit }: NumberToken, above: Hertz): Hertz =>
  unit === null && value < 10 && (above === 0 || value * 1000 > above) ? value * 1000 : value;

/** A frequency as if it had been typed. */
export const hertz = (value: Hertz): NumberToken => ({
  kind: 'number',
  text: String(value),
  value,
  sign: 0,
  unit: 'hz',
  isPart: false,
  isAddress: false,
});
