/** What a file seems to be, so that the one who drops it has little to say. */
import { createKernel, MomentSums, PairBlock } from '../dsp/index.ts';
import { type ByteSource, openWav, parseCurve, parseScopeTrace, startsLikeWav } from '../files/index.ts';
import { FormatError } from '../schema/index.ts';
import type { MeasurementKind } from './measurement.ts';

/** I/Q channels are as strong as each other and unlike; two channels of audio are alike, or one is empty. */
const LEAST_BALANCE = 0.5;
const MOST_LIKENESS = 0.5;
const LOOKED_AT_S = 20;
const TEXT_BYTES = 20_000;

/** @param radioKind what an I/Q recording would be of */
export async function guessKind(bytes: ByteSource, radioKind: MeasurementKind): Promise<MeasurementKind> {
  if (!startsLikeWav(await bytes.read(0, 4))) return guessText(new TextDecoder().decode(await bytes.read(0, TEXT_BYTES)));
  const source = await openWav(bytes);
  if (source.channels !== 2) return 'voice';
  const kernel = createKernel();
  if (!kernel) return 'voice';
  const block = new PairBlock(kernel);
  const sums = new MomentSums(kernel, source.sampleRateHz);
  let pairs = 0;
  for await (const part of source.interleaved()) {
    block.load(part);
    sums.add(block.stored());
    pairs += block.count;
    if (pairs > LOOKED_AT_S * source.sampleRateHz) break;
  }
  const all = sums.result();
  const balance = Math.min(all.ii, all.qq) / Math.max(all.ii, all.qq, Number.MIN_VALUE);
  const likeness = Math.abs(all.iq) / Math.sqrt(Math.max(all.ii * all.qq, Number.MIN_VALUE));
  return balance >= LEAST_BALANCE && likeness <= MOST_LIKENESS ? radioKind : 'voice';
}

/** A whole line's worth cut off at the end does not count. */
function guessText(text: string): MeasurementKind {
  const whole = text.length < TEXT_BYTES ? text : text.slice(0, text.lastIndexOf('\n'));
  const read = <T>(parse: (text: string) => T): T | null => {
    try {
      return parse(whole);
    } catch (error) {
      if (error instanceof FormatError) return null;
      throw error;
    }
  };
  const curve = read(parseCurve);
  // Seconds of a scope's screen never reach a hundred.
  if (curve && curve[curve.length - 1][0] >= 100) return 'response';
  return read(parseScopeTrace) ? 'power' : 'voice';
}
