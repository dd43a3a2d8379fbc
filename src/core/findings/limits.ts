/**
 * From where on a number is worth a look or a fault. One table for all kinds of measurement; a station may set
 * its own. Unless an entry names a source its limits are common practice, the trade's rules of thumb.
 */

/** From where on a number is worth a look, and from where on a fault. */
export interface Limit {
  /** What is judged, as a list of limits names it. */
  readonly what: string;
  readonly unit: string;
  /** Which side is bad. */
  readonly bad: 'above' | 'below';
  /** Null: never that bad. */
  readonly watch: number | null;
  readonly fault: number | null;
  readonly source: string;
}

const PRACTICE = 'common practice';
const above = (what: string, unit: string, watch: number | null, fault: number | null, source = PRACTICE): Limit => ({
  what,
  unit,
  bad: 'above',
  watch,
  fault,
  source,
});
const below = (what: string, unit: string, watch: number | null, fault: number | null, source = PRACTICE): Limit => ({
  ...above(what, unit, watch, fault, source),
  bad: 'below',
});

/** Every limit, by name; `own` limits of a station stand before them. */
export const LIMITS = {
  clipping: above('Samples at full scale, audio', '%', 1e-7, 0.01),
  flatTops: above('Flat tops below full scale', 'tops', null, 6),
  lowLevel: below('Speech level, low', 'dB', -45, -60),
  highLevel: above('Speech level, high', 'dB', -10, null),
  hum: above('Mains hum re speech', 'dB', -45, -30),
  roomNoise: below('Signal-to-noise of speech', 'dB', 14, 9),
  plosives: above('Pops', 'a minute', 6, 20),
  sibilance: above('5–8 kHz re 500–2000 Hz', 'dB', -4, 0),
  boomy: above('Lows around 200 Hz over ordinary speech', 'dB', 3.5, 10),
  muffled: above('1.6–2.5 kHz under ordinary speech', 'dB', 4, 9),
  thin: above('315–630 Hz under ordinary speech', 'dB', 9, 14),
  harsh: above('2–2.5 kHz over ordinary speech', 'dB', 11, 15),
  narrow: below('Width of the audio', 'Hz', 1600, 1000),
  overload: above('Samples at full scale, I/Q', '%', 1e-7, 0.001),
  raisedFloor: above('Rise of the noise floor under talk', 'dB', 6, 12),
  deadChannel: below('Weaker of I and Q re the stronger', '%', 1, 0.1),
  sameChannels: above('Likeness of I and Q', '', null, 0.98),
  constantPart: above('Constant part of I and Q', '%', 50, null),
  image: above('Image about the file’s centre', 'dB', -40, -25),
  iqLevel: below('Level of the strongest moments, I/Q', 'dB', -60, -80),
  ssbWidth: above(
    'Occupied bandwidth, SSB',
    'Hz',
    3000,
    3600,
    'common practice; 300–3000 Hz SSB is 2K70J3E in the ITU Radio Regulations, Appendix 1',
  ),
  splatter: above('Power 3.3 to 6.3 kHz from the carrier', 'dB', -40, -30),
  overdrive: above('Power beside the voice that grows faster than it, loud moments', 'dB', -36, -30),
  oppositeSideband: above('Opposite sideband', 'dB', -40, -30),
  carrierLeak: above('Residual carrier re PEP', 'dB', -40, -30),
  wrongSideband: above('Opposite sideband over the wanted one', 'dB', null, 6),
  imd3: above('Third-order products re PEP', 'dB', -30, -25),
  imd5: above('Fifth-order products re PEP', 'dB', -36, -30),
  underModulated: below('Modulation depth of AM, positive', '%', 60, 30),
  overModulated: above('Modulation depth of AM, negative', '%', 98, 99.8),
  carrierCutOff: above('Time in which the carrier of AM is cut off', '%', 0.015, 0.1),
  amWidth: above(
    'Occupied bandwidth, AM',
    'Hz',
    6200,
    9000,
    'common practice; 3 kHz AM is 6K00A3E in the ITU Radio Regulations, Appendix 1',
  ),
  narrowDeviation: below('Peak deviation, low', 'Hz', 1500, 1000),
  overDeviation: above('Peak deviation, high', 'Hz', 5200, 6000),
  offFrequency: above('Distance from the stated carrier', 'Hz', 500, 1500),
  rollOff: below('Response at 2.7 kHz re the middle', 'dB', -6, -12),
  rippleWidth: above('Ripple between 500 and 2000 Hz, top to bottom', 'dB', 4, 8),
  distortion: above('Harmonics re the fundamental', 'dB', -30, -20),
  levelDrift: above('Change of level during the test signal', 'dB', 0.5, 2),
} as const satisfies Record<string, Limit>;

/** A name of the table. */
export type LimitName = keyof typeof LIMITS;
/** The names in the table's order. */
export const LIMIT_NAMES = Object.keys(LIMITS) as readonly LimitName[];

/** A station's own limits, where they differ from the table. */
export type OwnLimits = Partial<Record<LimitName, { readonly watch: number | null; readonly fault: number | null }>>;

/** The limit in force. */
export function limitOf(name: LimitName, own: OwnLimits = {}): Limit {
  const mine = own[name];
  return mine ? { ...LIMITS[name], ...mine, source: 'this station’s own limit' } : LIMITS[name];
}
