/** dialtune tone: test signals to play into the mic socket. */
import { writeFile } from 'node:fs/promises';
import { RESPONSE_SIGNAL, TEST_SIGNALS, testSignal } from '@/core/dsp/index.ts';
import { writeWav } from '@/core/files/index.ts';
import { InputError, UsageError } from './errors.ts';
import { numberOf, oneOf, parse, required } from './options.ts';

const CAUTION =
  'Continuous duty: into a dummy load, at reduced power, and short; watch temperature and SWR. Start with the level low and keep the ALC still. Your licence and local rules decide.';

export async function tone(args: readonly string[]): Promise<{ json: object; text: string }> {
  const parsed = parse(args, ['out', 'seconds', 'level', 'rate']);
  if (parsed.files.length !== 1) throw new UsageError(`which signal? ${TEST_SIGNALS.join(', ')}`);
  const signal = oneOf('signal', parsed.files[0], TEST_SIGNALS);
  const path = required(parsed, 'out');
  const isSweep = signal === 'sweep';
  const seconds =
    numberOf(parsed, 'seconds', isSweep ? [RESPONSE_SIGNAL.leastSeconds, RESPONSE_SIGNAL.mostSeconds] : [1, 600]) ??
    (isSweep ? RESPONSE_SIGNAL.usualSeconds : 10);
  if (isSweep && !Number.isInteger(seconds))
    throw new UsageError('--seconds of a sweep is a whole number, so that its recording can be told');
  const levelDb = numberOf(parsed, 'level', [-80, 0]) ?? -6;
  const rateHz = numberOf(parsed, 'rate', [16000, 192000]) ?? 48000;
  if (!Number.isInteger(rateHz)) throw new UsageError('--rate is a whole number of hertz');
  const samples = testSignal({ signal, rateHz, seconds, levelDb });
  try {
    await writeFile(path, writeWav({ sampleRateHz: rateHz, channels: 1, bits: 24, encoding: 'pcm' }, [samples]));
  } catch (error) {
    throw new InputError(`${path}: it could not be written (${(error as NodeJS.ErrnoException).code ?? (error as Error).message}).`);
  }
  const durationS = samples.length / rateHz;
  return {
    json: { signal, out: path, durationS, sampleRateHz: rateHz, peakDb: levelDb, caution: CAUTION },
    text: `${path}: ${signal}, ${durationS.toFixed(1)} s, peak ${levelDb} dB.\n${CAUTION}`,
  };
}
