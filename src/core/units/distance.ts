/** Talking distances in the reader's unit. They are kept in centimetres. */
import { fixed } from './numberText.ts';

/** Units that distances can be read in. */
export const DISTANCE_UNITS = ['cm', 'in'] as const;
/** One of them. */
export type DistanceUnit = (typeof DISTANCE_UNITS)[number];
/** Units in words. */
export const DISTANCE_UNIT_LABELS: Readonly<Record<DistanceUnit, string>> = { cm: 'centimetres', in: 'inches' };

const CM_AN_INCH = 2.54;

/** A length in centimetres as a number of the unit, for a field: tenths are as fine as anybody measures. */
export const inUnit = (cm: number, unit: DistanceUnit): number => (unit === 'cm' ? cm : Math.round((10 * cm) / CM_AN_INCH) / 10);

/** What was typed in the unit, in centimetres. */
export const inCentimetres = (value: number, unit: DistanceUnit): number =>
  unit === 'cm' ? value : Number((value * CM_AN_INCH).toFixed(2));

/** 6 cm, 2.4 in. */
export const distanceText = (cm: number, unit: DistanceUnit = 'cm'): string =>
  unit === 'cm' ? `${Number(fixed(cm, 1))} cm` : `${inUnit(cm, unit)} in`;
