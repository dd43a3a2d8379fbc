/** Broken files made from good ones, for the fuzzer and its short run in the tests. */

import { type Random, seededRandom } from '../../src/core/dsp/statistics/random.ts';
import { bytesInMemory } from '../../src/core/files/byteSource.ts';
import { openSigmf, parseSigmfMeta } from '../../src/core/files/sigmf.ts';
import { writeWav } from '../../src/core/files/wavWriter.ts';
import { MEASUREMENT_KINDS } from '../../src/core/measure/measurement.ts';
import { measureFile, measureRecording } from '../../src/core/measure/measureRecording.ts';
import { NotMeasurable } from '../../src/core/measure/radio/iq.ts';
import { FormatError } from '../../src/core/schema/formatError.ts';

const RATE = 8000;
const tone = (hz: number, seconds: number, phase = 0) =>
  Float64Array.from({ length: RATE * seconds }, (_, n) => 0.4 * Math.sin((2 * Math.PI * hz * n) / RATE + phase));

const wav = (channels: number, bits: number, encoding: 'pcm' | 'float') =>
  writeWav({ sampleRateHz: RATE, channels, bits, encoding }, [tone(700, 0.3), tone(700, 0.3, Math.PI / 2)].slice(0, channels));

const text = (content: string) => new TextEncoder().encode(content);
const META = JSON.stringify({
  global: { 'core:datatype': 'ci16_le', 'core:sample_rate': RATE, 'core:version': '1.0.0' },
  captures: [{ 'core:sample_start': 0, 'core:frequency': 7e6 }],
  annotations: [],
});

/** Good files to begin with: every coding of WAV, SigMF's facts, a curve, a trace. */
const SEEDS: readonly { readonly name: string; readonly bytes: Uint8Array }[] = [
  ...([8, 16, 24, 32] as const).flatMap((bits) =>
    [1, 2].map((channels) => ({ name: `pcm${bits}x${channels}`, bytes: wav(channels, bits, 'pcm') })),
  ),
  { name: 'float32', bytes: wav(2, 32, 'float') },
  { name: 'float64', bytes: wav(1, 64, 'float') },
  { name: 'sigmf', bytes: text(META) },
  { name: 'curve', bytes: text('Hz,dB\n100,-3\n300,0\n1000,0\n2700,-6\n4000,-20\n') },
  { name: 'trace', bytes: text(Array.from({ length: 40 }, (_, n) => `${n}e-6,${(n % 5) - 2}`).join('\n')) },
];

const whole = (random: Random, most: number) => Math.floor(random() * most);
/** Numbers that headers trip over. */
const NASTY = [0, 1, 0xff, 0x7f, 0x80];

function mutate(bytes: Uint8Array, random: Random): Uint8Array {
  let out = bytes.slice();
  for (let rounds = 1 + whole(random, 4); rounds > 0; rounds--) {
    const at = random() < 0.7 ? whole(random, Math.min(out.length, 64)) : whole(random, out.length);
    switch (whole(random, 6)) {
      case 0:
        out[at] ^= 1 << whole(random, 8);
        break;
      case 1:
        out[at] = NASTY[whole(random, NASTY.length)];
        break;
      case 2:
        out = out.slice(0, at);
        break;
      case 3:
        out.fill(random() < 0.5 ? 0xff : 0, at, at + 1 + whole(random, 8));
        break;
      case 4:
        out = Uint8Array.from([...out.subarray(0, at), ...out.subarray(whole(random, Math.max(1, at)), at), ...out.subarray(at)]);
        break;
      default:
        out.copyWithin(at, whole(random, Math.max(1, out.length)), out.length);
    }
    if (out.length === 0) break;
  }
  return out;
}

/** Expected ways to say no: one clear sentence. */
const isRefusal = (error: unknown) => error instanceof FormatError || error instanceof NotMeasurable || error instanceof RangeError;

/**
 * Measures one mutated file as some kind.
 * @param seed the same seed gives the same file
 * @returns what went wrong, or null when it was measured or refused in words
 */
export async function fuzzOnce(seed: number): Promise<string | null> {
  const random = seededRandom(seed);
  const { name, bytes } = SEEDS[whole(random, SEEDS.length)];
  const broken = mutate(bytes, random);
  const kind = MEASUREMENT_KINDS[whole(random, MEASUREMENT_KINDS.length)];
  const settings = { carrierHz: random() < 0.5 ? undefined : whole(random, 3000) - 1500, proposesCarrier: random() < 0.2 };
  try {
    const result =
      name === 'sigmf' && kind !== 'power'
        ? await measureRecording(
            kind,
            openSigmf(parseSigmfMeta(new TextDecoder().decode(broken)), bytesInMemory(mutate(SEEDS[1].bytes, random))),
            settings,
          )
        : await measureFile(kind, bytesInMemory(broken), settings);
    const told = JSON.stringify(result.measurement, (_, value) =>
      typeof value === 'number' && !Number.isFinite(value) ? `#broken ${value}` : value,
    );
    return told.includes('#broken') ? `seed ${seed} (${name} as ${kind}): ${told.slice(0, 300)}` : null;
  } catch (error) {
    return isRefusal(error) ? null : `seed ${seed} (${name} as ${kind}): ${(error as Error).stack?.slice(0, 400)}`;
  }
}
