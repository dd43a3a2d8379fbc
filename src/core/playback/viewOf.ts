/** How a measured recording is heard and seen. */
import type { Measurement } from '../measure/index.ts';
import type { View } from './listen.ts';

/** Null for curves and traces, which are silent. */
export function viewOf(result: Measurement): View | null {
  switch (result.kind) {
    case 'voice':
      return { kind: 'voice' };
    case 'ssb':
      return { kind: 'ssb', carrierHz: result.carrierHz, sideband: result.sideband };
    case 'am':
      return { kind: 'am', carrierHz: result.carrierOffsetHz ?? 0 };
    case 'fm':
      return { kind: 'fm', carrierHz: result.offsetHz ?? 0 };
    case 'two-tone':
      return { kind: 'two-tone', carrierHz: result.tonesHz ? (result.tonesHz[0] + result.tonesHz[1]) / 2 : 0 };
    case 'response':
      // The test signal itself; a curve is silent.
      return result.sampleRateHz > 0 ? { kind: 'voice' } : null;
    default:
      return null;
  }
}
