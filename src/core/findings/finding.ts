/** A judgement on a number, and the names in use. */

/** In order, worth a look, or a fault. */
export type Severity = 'ok' | 'watch' | 'fault';

/** Codes in use; names stay, more may be added. */
export type FindingCode =
  | 'clipping'
  | 'flat-tops'
  | 'low-level'
  | 'high-level'
  | 'hum'
  | 'room-noise'
  | 'plosives'
  | 'sibilance'
  | 'boomy'
  | 'muffled'
  | 'thin'
  | 'harsh'
  | 'narrow'
  | 'noise-limited'
  | 'wide'
  | 'splatter'
  | 'opposite-sideband'
  | 'carrier-leak'
  | 'overdrive'
  | 'wrong-sideband'
  | 'receiver-overload'
  | 'iq-imbalance'
  | 'under-modulated'
  | 'over-modulated'
  | 'narrow-deviation'
  | 'over-deviation'
  | 'off-frequency'
  | 'roll-off'
  | 'ripple'
  | 'distortion'
  | 'level-drift';

/** The codes as operators say them, for a line in a list. */
export const FINDING_LABELS: Readonly<Record<FindingCode, string>> = {
  clipping: 'clipping',
  'flat-tops': 'flat tops',
  'low-level': 'low level',
  'high-level': 'high level',
  hum: 'hum',
  'room-noise': 'room noise',
  plosives: 'plosives',
  sibilance: 'sibilance',
  boomy: 'boomy',
  muffled: 'muffled',
  thin: 'thin',
  harsh: 'harsh',
  narrow: 'narrow',
  'noise-limited': 'noise-limited',
  wide: 'too wide',
  splatter: 'splatter',
  'opposite-sideband': 'opposite sideband',
  'carrier-leak': 'carrier leak',
  overdrive: 'overdrive',
  'wrong-sideband': 'wrong sideband',
  'receiver-overload': 'receiver overload',
  'iq-imbalance': 'I/Q imbalance',
  'under-modulated': 'under-modulated',
  'over-modulated': 'over-modulated',
  'narrow-deviation': 'narrow deviation',
  'over-deviation': 'over-deviation',
  'off-frequency': 'off frequency',
  'roll-off': 'roll-off',
  ripple: 'ripple',
  distortion: 'distortion',
  'level-drift': 'level drift',
};

/** A judgement with what it rests on. */
export interface Finding {
  readonly code: FindingCode;
  readonly severity: Severity;
  /** One sentence in the operator's words. */
  readonly text: string;
  /** The numbers behind it, with the threshold and where that comes from. */
  readonly evidence: string;
}

/** Findings by their names, each once. */
export const named = (findings: readonly Pick<Finding, 'code'>[]): string =>
  [...new Set(findings.map(({ code }) => FINDING_LABELS[code]))].join(', ');

/** What is worth a look or a fault, by name. */
export const standsOut = (findings: readonly Finding[]): string =>
  named(findings.filter(({ severity }) => severity !== 'ok')) || 'nothing stands out';
