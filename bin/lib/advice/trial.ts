/** A station to try the advice on: what is seen of it, what is wanted, and how it really stands. */
import type { LoopRadio, LoopWish } from '../../../src/core/advice/index.ts';
import type { Card } from '../../../src/core/rig/index.ts';
import type { Decibels } from '../../../src/core/units/index.ts';

/** How a card really stands on the station: what no operator sees. */
export interface Truth {
  readonly isAlcInZone: boolean;
  readonly isDriveClean: boolean;
  readonly isCompressionRight: boolean;
  readonly toneErrorDb: Decibels | null;
  readonly isReached: boolean;
}

/** One station. */
export interface Trial {
  readonly name: string;
  readonly wish: LoopWish;
  /** As if nobody had been there before: the same luck for every advisor. */
  readonly radio: () => Promise<LoopRadio>;
  readonly truth: (card: Card) => Promise<Truth>;
  /** Whether some mic gain brings the ALC of that card into the zone; left out: it does. */
  readonly isLevelInReach?: (card: Card) => Promise<boolean>;
}

/** Overs that an advisor has. */
export const OVERS = 10;
