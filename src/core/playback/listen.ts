/** What a recording sounds like: a stretch of audio, demodulated where need be. */
import { DownConverter, joined, PairBlock, type Spectrogram, SpectrogramBuilder } from '../dsp/index.ts';
import { mixDown, type SampleSource } from '../files/index.ts';
import { iqKernel } from '../measure/index.ts';
import { Discriminator, type Sideband, SsbDemodulator } from '../modem/index.ts';
import type { Hertz, Seconds } from '../units/index.ts';

/** How to hear or see a recording. */
export type View =
  | { readonly kind: 'voice' }
  | { readonly kind: 'ssb'; readonly carrierHz: Hertz; readonly sideband: Sideband }
  | { readonly kind: 'am' | 'fm'; readonly carrierHz: Hertz }
  | { readonly kind: 'two-tone'; readonly carrierHz: Hertz };

/** Sound to be played, and its rate. */
export interface Heard {
  readonly samples: Float64Array;
  readonly rateHz: Hertz;
}

const AM_HALF_HZ = 5000;
const FM_HALF_HZ = 8000;
const TRANSITION_HZ = 1500;

/** @throws NotMeasurable for a single channel where I and Q are needed */
export async function listen(source: SampleSource, view: View, fromS: Seconds, lengthS: Seconds): Promise<Heard> {
  const rate = source.sampleRateHz;
  const from = Math.max(0, Math.min(Math.round(fromS * rate), source.frames - Math.round(0.2 * rate)));
  const parts: Float64Array[] = [];
  if (view.kind === 'voice') {
    let left = Math.round(lengthS * rate);
    for await (const block of source.blocks({ from })) {
      const mono = mixDown(block);
      parts.push(mono.slice(0, left));
      left -= mono.length;
      if (left <= 0) break;
    }
    return { samples: joined(parts), rateHz: rate };
  }
  const kernel = iqKernel(source);
  const block = new PairBlock(kernel);
  const { rateHz, push } = demodulator(kernel, rate, view);
  let left = Math.round(lengthS * rateHz);
  for await (const stored of source.interleaved({ from })) {
    block.load(stored);
    const audio = push(block);
    parts.push(audio.slice(0, Math.max(0, left)));
    left -= audio.length;
    if (left <= 0) break;
  }
  return { samples: joined(parts), rateHz };
}

function demodulator(kernel: ReturnType<typeof iqKernel>, rate: Hertz, view: Exclude<View, { kind: 'voice' }>) {
  if (view.kind === 'ssb' || view.kind === 'two-tone') {
    const ssb = new SsbDemodulator(kernel, rate, view.carrierHz, view.kind === 'ssb' ? view.sideband : 'usb');
    return { rateHz: ssb.sampleRateHz, push: (block: PairBlock) => ssb.push(block) };
  }
  const half = view.kind === 'am' ? AM_HALF_HZ : FM_HALF_HZ;
  const channel = new DownConverter(kernel, {
    sampleRateHz: rate,
    centreHz: view.carrierHz,
    halfWidthHz: half,
    transitionHz: TRANSITION_HZ,
    leastRateHz: Math.min(2 * half + 2 * TRANSITION_HZ, rate),
  });
  const discriminator = new Discriminator(channel.sampleRateHz);
  const push = (block: PairBlock): Float64Array => {
    const z = channel.push(block);
    const raw = view.kind === 'am' ? z.i.map((x, n) => Math.hypot(x, z.q[n])) : discriminator.push(z).map((hz) => hz / FM_HALF_HZ);
    const mean = raw.reduce((a, b) => a + b, 0) / Math.max(1, raw.length);
    return raw.map((x) => x - mean);
  };
  return { rateHz: channel.sampleRateHz, push };
}

const SEEN_SECONDS: Seconds = 60;
const VOICE_RANGE: readonly [Hertz, Hertz] = [0, 4000];
const RADIO_HALF_HZ = 7000;

/** A spectrogram of the first minute: of the audio, or of the radio spectrum about the carrier. */
export async function look(source: SampleSource, view: View, columns: number): Promise<Spectrogram> {
  const rate = source.sampleRateHz;
  const seconds = Math.min(SEEN_SECONDS, source.frames / rate);
  const isRadio = view.kind !== 'voice';
  const reach = rate / 2;
  const range: readonly [Hertz, Hertz] = isRadio
    ? [Math.max(-reach, view.carrierHz - RADIO_HALF_HZ), Math.min(reach, view.carrierHz + RADIO_HALF_HZ)]
    : [VOICE_RANGE[0], Math.min(VOICE_RANGE[1], reach)];
  const builder = new SpectrogramBuilder(rate, isRadio, range, seconds, columns);
  let left = Math.round(seconds * rate);
  if (isRadio) {
    const block = new PairBlock(iqKernel(source));
    for await (const stored of source.interleaved()) {
      block.load(stored);
      builder.push(block.values(0, Math.min(block.count, left)));
      left -= block.count;
      if (left <= 0) break;
    }
    return builder.result();
  }
  for await (const part of source.blocks()) {
    const mono = mixDown(part);
    builder.push(mono.subarray(0, left));
    left -= mono.length;
    if (left <= 0) break;
  }
  return builder.result();
}
