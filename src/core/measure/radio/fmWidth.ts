/** Wide and narrow FM, and what each kind of receiver makes of the other. */
import { amplitudeToDb, type Decibels, type Hertz } from '../../units/index.ts';

/** Between the two widths of channel; common practice: 2.5 kHz is narrow, 5 kHz wide. */
const WIDE_FROM_HZ = 3500;

/** The two channel widths of FM voice. */
export type FmWidth = 'narrow' | 'wide';

/** The width of channel that a peak deviation fits. */
export const fmWidthOf = (peakDeviationHz: Hertz): FmWidth => (peakDeviationHz < WIDE_FROM_HZ ? 'narrow' : 'wide');

/** Peak deviation each width of receiver is made for. Common practice. */
export const FULL_DEVIATION_HZ: Record<FmWidth, Hertz> = { narrow: 2500, wide: 5000 };

/** How much louder (+) or quieter (-) a signal comes out of a receiver of a width than its own users do: 20 log10 of the deviations. */
export const heardReFullDb = (peakDeviationHz: Hertz, receiver: FmWidth): Decibels =>
  amplitudeToDb(peakDeviationHz / FULL_DEVIATION_HZ[receiver]);

/** Bandwidth by Carson's rule (J. R. Carson 1922). */
export const carsonHz = (peakDeviationHz: Hertz, audioHz: Hertz): Hertz => 2 * (peakDeviationHz + audioHz);
