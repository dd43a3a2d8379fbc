/** What a line of advice comes to. */
import type { Card, Dial, DialValue } from '../rig/index.ts';
import type { MeterReading } from './readings.ts';

/** One dial, from where to where. */
export interface LineMove {
  readonly dial: Dial;
  readonly from: DialValue;
  readonly to: DialValue;
}

/** What a line means. */
export type DialLine =
  | {
      readonly kind: 'do';
      /** Empty where the line only reads a meter. */
      readonly moves: readonly LineMove[];
      readonly reading: MeterReading | null;
      /** What will happen, one sentence each. */
      readonly explained: readonly string[];
      /** What to mind: a dead dial, a stop at the end of the scale. */
      readonly warnings: readonly string[];
    }
  | { readonly kind: 'undo'; readonly explained: readonly string[] }
  | {
      readonly kind: 'problem';
      readonly text: string;
      /** What was understood all the same; nothing of it is done. */
      readonly explained: readonly string[];
      readonly unread: readonly string[];
      /** It was understood, and a dial has no such value. */
      readonly isOffScale: boolean;
    }
  | { readonly kind: 'empty' };

/** What was before this line, where that is known. */
export interface LineContext {
  /** Moves of the line before, for "same again". */
  readonly lastMoves?: readonly LineMove[];
  /** The card one revision earlier, for "back to what it was". */
  readonly before?: Card;
}
