/** Modulators and demodulators. What the other folders may use. */

export { amEnvelope } from './am.ts';
export { Discriminator, FrequencyModulator, PairDiscriminator } from './fm.ts';
export { type Sideband, SsbDemodulator } from './ssb.ts';
