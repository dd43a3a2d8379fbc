/** Paths and receivers to listen through. Levels are common practice: 10 dB is a weak signal, 20 dB a fair one. */

import { type FmWidth, FULL_DEVIATION_HZ } from '../../measure/index.ts';
import { CLEAR_PATH, type PathShape } from '../path/path.ts';
import { FAST_AGC } from '../receiver/agc.ts';
import { GOOD_RECEIVER, type ReceiverShape } from '../receiver/receiver.ts';

/** Paths by name. */
export const PATHS: Readonly<Record<string, { readonly text: string; readonly path: PathShape }>> = {
  clear: { text: 'next door, no noise', path: CLEAR_PATH },
  fair: { text: 'fair signal in noise', path: { ...CLEAR_PATH, snrDb: 25 } },
  weak: { text: 'weak signal in noise', path: { ...CLEAR_PATH, snrDb: 15 } },
  moderate: { text: 'fading, moderate HF path', path: { ...CLEAR_PATH, snrDb: 25, fading: 'moderate' } },
  poor: { text: 'fading, poor HF path', path: { ...CLEAR_PATH, snrDb: 25, fading: 'poor' } },
  static: { text: 'fair signal with static', path: { ...CLEAR_PATH, snrDb: 25, impulses: { perSecond: 12, peakDb: 12 } } },
};

/** Receivers by name. */
export const RECEIVERS: Readonly<Record<string, { readonly text: string; readonly receiver: ReceiverShape }>> = {
  good: { text: 'a good one', receiver: GOOD_RECEIVER },
  narrow: { text: 'narrow filter, fast AGC', receiver: { ...GOOD_RECEIVER, passbandHz: [300, 2400], agc: FAST_AGC } },
  mistuned: { text: 'mistuned by 80 Hz', receiver: { ...GOOD_RECEIVER, mistuneHz: 80 } },
  reduced: { text: 'with noise reduction', receiver: { ...GOOD_RECEIVER, noiseReduction: 1 } },
  blanked: { text: 'with its blanker on', receiver: { ...GOOD_RECEIVER, blanker: 4 } },
  overloaded: { text: 'overloaded', receiver: { ...GOOD_RECEIVER, overloadDb: -10 } },
};

/** FM repeaters by the width of their channel: a discriminator and no AGC, so that too little deviation stays too little. */
export const REPEATERS: Readonly<Record<FmWidth, ReceiverShape>> = {
  wide: { ...GOOD_RECEIVER, agc: null, deviationHz: FULL_DEVIATION_HZ.wide },
  narrow: { ...GOOD_RECEIVER, agc: null, deviationHz: FULL_DEVIATION_HZ.narrow },
};
