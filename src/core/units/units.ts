/** The units that signal code speaks in. Plain numbers at run time; the name is the promise. */

/** Frequency, or a distance between frequencies. */
export type Hertz = number;
/** A level: 20 log10 of an amplitude ratio or 10 log10 of a power ratio. */
export type Decibels = number;
/** Time. */
export type Seconds = number;
/** Mean square of samples whose full scale is 1.0. */
export type Power = number;
/** A share of a whole, 0 to 1, never percent. */
export type Fraction = number;
/** Width of a filter between its half-gain points, as a frequency ratio's base-2 logarithm. */
export type Octaves = number;
