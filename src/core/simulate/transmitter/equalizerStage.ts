/** The radio's equalizer: the filters that the card's live bands make, one after the other. */
import { type AudioStage, type Biquad, BiquadChain, instantAudio } from '../../dsp/index.ts';

/** The equalizer's sections over a stream. */
export function equalizerStage(filters: readonly Biquad[]): AudioStage {
  const chain = new BiquadChain(filters);
  return instantAudio((block) => chain.process(block));
}
