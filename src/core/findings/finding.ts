/** A judgement on a number, and the names in use. */

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

/** A judgement with what it rests on. */
export interface Finding {
  readonly code: FindingCode;
  readonly severity: Severity;
  /** One sentence in the operator's words. */
  readonly text: string;
  /** The numbers behind it, with the threshold and where that comes from. */
  readonly evidence: string;
}
