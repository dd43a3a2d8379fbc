/** The radio's equalizer: the filters that the card's live bands make, one after the other. */
import { type Biquad, BiquadChain } from '../../dsp/filter/biquad.ts';
import { type AudioStage, instantAudio } from '../../dsp/signals/stage.ts';

export function equalizerStage(filters: readonly Biquad[]): AudioStage {
  const chain = new BiquadChain(filters);
  return instantAudio((block) => chain.process(block));
}
