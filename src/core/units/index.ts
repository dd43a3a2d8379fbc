/** Units, conversions, and numbers as text. What the other folders may use. */

export { amplitudeToDb, dbToAmplitude, dbToPower, octavesAbove, powerToDb, qToOctaves } from './conversions.ts';
export { DISTANCE_UNIT_LABELS, DISTANCE_UNITS, type DistanceUnit, distanceText, inCentimetres, inUnit } from './distance.ts';
export { bytes, decibels, duration, fixed, frequency, hertz, percent, plainNumber, roughPercent, signed, withMinus } from './numberText.ts';
export { neededNumber, typedNumber } from './typedNumber.ts';
export type { Decibels, Fraction, Hertz, Octaves, Power, Seconds } from './units.ts';
