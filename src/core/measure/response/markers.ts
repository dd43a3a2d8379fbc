/**
 * Whether a recording may hold the markers of the response signal at all: a quick look, in the markers' band alone and at
 * its rate, before anybody searches in earnest. It may err on the side of yes.
 */
import {
  type Complex,
  closingMarker,
  createKernel,
  DownConverter,
  FftFilter,
  joined,
  type Kernel,
  openingMarker,
  PairBlock,
  RESPONSE_SIGNAL,
} from '../../dsp/index.ts';
import { mixDown, type SampleSource } from '../../files/index.ts';
import type { Fraction, Hertz } from '../../units/index.ts';

/** The search in earnest asks for 0.35 over all frequencies; 25 recorded voices reached 0.05 to 0.16 here. */
const LEAST_LIKENESS: Fraction = 0.22;
const BAND = {
  centreHz: (RESPONSE_SIGNAL.marker.lowHz + RESPONSE_SIGNAL.marker.highHz) / 2,
  halfWidthHz: 1200,
  transitionHz: 400,
  leastRateHz: 3000,
};
/** Recordings of a lower rate are short enough to be searched at once. */
const LEAST_RATE_HZ: Hertz = 8000;
/** The converter's filter ends with silence of so many samples. */
const SETTLING = 4096;

export async function mayHoldMarkers(source: SampleSource): Promise<boolean> {
  const { sampleRateHz } = source;
  const kernel = createKernel();
  if (!kernel || sampleRateHz < LEAST_RATE_HZ) return true;
  const band = new Band(kernel, sampleRateHz);
  const parts: Complex[] = [];
  for await (const block of source.blocks()) parts.push(band.push(mixDown(block)));
  parts.push(band.push(new Float64Array(SETTLING)));
  const heard = inOne(parts);
  return [openingMarker, closingMarker].every((marker) => {
    const inBand = new Band(kernel, sampleRateHz);
    const template = inOne([inBand.push(marker(sampleRateHz)), inBand.push(new Float64Array(SETTLING))]);
    return likeness(heard, template) >= LEAST_LIKENESS;
  });
}

const inOne = (parts: readonly Complex[]): Complex => ({ i: joined(parts.map(({ i }) => i)), q: joined(parts.map(({ q }) => q)) });

/** The markers' band of a real signal, at its own low rate. */
class Band {
  readonly #converter: DownConverter;
  readonly #block: PairBlock;

  constructor(kernel: Kernel, sampleRateHz: Hertz) {
    this.#converter = new DownConverter(kernel, { sampleRateHz, ...BAND });
    this.#block = new PairBlock(kernel);
  }

  push(samples: Float64Array): Complex {
    const pairs = new Float32Array(2 * samples.length);
    for (let n = 0; n < samples.length; n++) pairs[2 * n] = samples[n];
    this.#block.load(pairs);
    return this.#converter.push(this.#block);
  }
}

/** The best fit of a template anywhere: the share of the amplitude there that it explains. */
function likeness(heard: Complex, template: Complex): Fraction {
  // An odd number of taps has a middle; one sample more or less changes nothing.
  const length = template.i.length - (1 - (template.i.length % 2));
  const half = (length - 1) / 2;
  const taps = { i: new Float64Array(length), q: new Float64Array(length) };
  let own = 0;
  for (let k = 0; k < length; k++) {
    taps.i[k] = template.i[length - 1 - k];
    taps.q[k] = -template.q[length - 1 - k];
    own += taps.i[k] ** 2 + taps.q[k] ** 2;
  }
  const filter = new FftFilter(taps);
  const fit = inOne([filter.push(heard.i, heard.q), filter.end()]);
  const count = heard.i.length;
  const energy = new Float64Array(count + 1);
  for (let n = 0; n < count; n++) energy[n + 1] = energy[n] + heard.i[n] ** 2 + heard.q[n] ** 2;
  // Stretches of next to nothing fit anything.
  const least = (energy[count] / Math.max(1, count)) * length * 1e-4;
  let best = 0;
  for (let n = 0; n < count; n++) {
    const here = energy[Math.min(count, n + half + 1)] - energy[Math.max(0, n - half)];
    if (here > least) best = Math.max(best, (fit.i[n] ** 2 + fit.q[n] ** 2) / (here * own));
  }
  return Math.sqrt(best);
}
