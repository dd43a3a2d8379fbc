/**
 * bin/bench: CPU times of the heavy work, as ratios where another program does the same. Runs alternate, so that
 * a noisy machine disturbs both; start-up is not counted.
 */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fitEqualizer } from '../../src/core/advice/fitEqualizer.ts';
import { defaultTarget } from '../../src/core/advice/targets.ts';
import { bytesInMemory } from '../../src/core/formats/byteSource.ts';
import { openWav, readAll } from '../../src/core/formats/samples.ts';
import { writeWav } from '../../src/core/formats/wavWriter.ts';
import { measureVoice } from '../../src/core/measure/voice.ts';
import { factoryCard } from '../../src/core/station/card.ts';
import { parseRig } from '../../src/core/station/validate.ts';

const RUNS = 5;
const root = process.cwd();
const median = (times: readonly number[]) => [...times].sort((a, b) => a - b)[Math.floor(times.length / 2)];

async function cpuSeconds(work: () => unknown): Promise<number> {
  const start = process.cpuUsage();
  await work();
  const { user, system } = process.cpuUsage(start);
  return (user + system) / 1e6;
}

const over = new Uint8Array(readFileSync(join(root, 'demo/overs/08-bram-muffled.wav')));

async function benchFit(): Promise<void> {
  const rig = parseRig(JSON.parse(readFileSync(join(root, 'demo/rigs/tern-100.json'), 'utf8')));
  const { detail } = await measureVoice(await openWav(bytesInMemory(over)));
  const times: number[] = [];
  for (let i = 0; i < 2 * RUNS; i++) {
    const start = performance.now();
    fitEqualizer({ rig, card: factoryCard(rig), voice: detail, aim: defaultTarget('pile-up') });
    times.push(performance.now() - start);
  }
  console.log(
    `fit, three parametric bands, full grid (guide: 200 ms): first ${times[0].toFixed(0)} ms, median ${median(times).toFixed(0)} ms`,
  );
}

/** A minute of 48 kHz talk: the demo over again and again, each sample held. */
async function minuteOfTalk(): Promise<Uint8Array> {
  const short = await readAll(await openWav(bytesInMemory(over)));
  const minute = Float64Array.from({ length: 60 * 48000 }, (_, n) => short[Math.floor(n / 4) % short.length]);
  return writeWav({ sampleRateHz: 48000, channels: 1, bits: 16, encoding: 'pcm' }, [minute]);
}

async function benchVoice(): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'dialtune-bench-'));
  const file = join(folder, 'minute.wav');
  const bytes = await minuteOfTalk();
  writeFileSync(file, bytes);
  const ours: number[] = [];
  const theirs: number[] = [];
  for (let i = 0; i < RUNS; i++) {
    ours.push(await cpuSeconds(async () => measureVoice(await openWav(bytesInMemory(bytes)))));
    theirs.push(Number(execFileSync('/usr/bin/python3', [join(root, 'bin/lib/voice_scipy.py'), file], { encoding: 'utf8' })));
  }
  rmSync(folder, { recursive: true });
  const ratio = median(ours) / median(theirs);
  console.log(
    `voice, 60 s at 48 kHz, CPU time against SciPy: ${ratio.toFixed(2)} (${median(ours).toFixed(2)} s to ${median(theirs).toFixed(2)} s)`,
  );
}

await benchFit();
await benchVoice();
