/** The operator's transmit path from voice to listener, in its order. */

/** The stages in the signal's order. */
export const STAGES = ['voice', 'mic', 'gain', 'equalizer', 'compressor', 'passband', 'alc', 'on-air', 'heard'] as const;
/** One of them. */
export type StageKey = (typeof STAGES)[number];

/** Stages in words. */
export const STAGE_NAMES: Record<StageKey, string> = {
  voice: 'Voice',
  mic: 'Mic',
  gain: 'Gain',
  equalizer: 'Equalizer',
  compressor: 'Compressor',
  passband: 'Passband',
  alc: 'ALC',
  'on-air': 'On air',
  heard: 'Heard',
};
