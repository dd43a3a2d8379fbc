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
import { peaking } from '../../src/core/dsp/filter/biquad.ts';
import { gaussian, seededRandom } from '../../src/core/dsp/statistics/random.ts';
import { bytesInMemory } from '../../src/core/files/byteSource.ts';
import { openWav, readAll } from '../../src/core/files/samples.ts';
import { writeWav } from '../../src/core/files/wavWriter.ts';
import { CardJudge } from '../../src/core/intelligibility/cardJudge.ts';
import { measureSsb } from '../../src/core/measure/radio/ssb.ts';
import { measureVoice } from '../../src/core/measure/voice/voice.ts';
import { ssbModulate } from '../../src/core/modem/ssb.ts';
import { factoryCard } from '../../src/core/rig/card.ts';
import { parseRig } from '../../src/core/rig/validate.ts';
import { QUIET_ROOM } from '../../src/core/simulate/transmitter/microphoneStage.ts';
import { parametersOf, type TransmitterParameters, USUAL_RADIO } from '../../src/core/simulate/transmitter/parameters.ts';
import { Transmitter } from '../../src/core/simulate/transmitter/transmitter.ts';

import { adviceShard, benchAdvice } from './advice/bench.ts';

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
    fitEqualizer({ rig, card: factoryCard(rig), voice: detail, target: defaultTarget('pile-up') });
    times.push(performance.now() - start);
  }
  console.log(
    `fit, three parametric bands, full grid (guide: 200 ms): first ${times[0].toFixed(0)} ms, median ${median(times).toFixed(0)} ms`,
  );
}

/** Talk at a rate: the demo over again and again, each sample held. */
async function talk(rateHz: number, seconds: number): Promise<Float64Array> {
  const source = await openWav(bytesInMemory(over));
  const short = await readAll(source);
  return Float64Array.from({ length: seconds * rateHz }, (_, n) => short[Math.floor((n * source.sampleRateHz) / rateHz) % short.length]);
}

/** CPU time of ours against a script's, run in turn. @param script in bin/lib, told the file and more arguments */
async function race(name: string, bytes: Uint8Array, script: string, more: readonly string[], work: () => unknown): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'dialtune-bench-'));
  const file = join(folder, 'recording.wav');
  writeFileSync(file, bytes);
  const [ours, theirs]: number[][] = [[], []];
  for (let i = 0; i < RUNS; i++) {
    ours.push(await cpuSeconds(work));
    theirs.push(Number(execFileSync('/usr/bin/python3', [join(root, 'bin/lib', script), file, ...more], { encoding: 'utf8' })));
  }
  rmSync(folder, { recursive: true });
  const ratio = median(ours) / median(theirs);
  console.log(`${name}, CPU time against SciPy: ${ratio.toFixed(2)} (${median(ours).toFixed(2)} s to ${median(theirs).toFixed(2)} s)`);
}

async function benchVoice(): Promise<void> {
  const bytes = writeWav({ sampleRateHz: 48000, channels: 1, bits: 16, encoding: 'pcm' }, [await talk(48000, 600)]);
  await race('voice, 10 min at 48 kHz (goal 0.45, at most 0.6)', bytes, 'voice_scipy.py', [], async () =>
    measureVoice(await openWav(bytesInMemory(bytes))),
  );
}

const CARRIER_HZ = 20_000;

async function benchSsb(): Promise<void> {
  const rateHz = 192_000;
  const seconds = await talk(rateHz, 4);
  const { i, q } = ssbModulate(seconds, rateHz, CARRIER_HZ, 'usb');
  const normal = gaussian(seededRandom(1));
  const minute = (part: Float64Array) =>
    Float64Array.from({ length: 60 * rateHz }, (_, n) => 0.5 * part[n % part.length] + 1e-4 * normal());
  const bytes = writeWav({ sampleRateHz: rateHz, channels: 2, bits: 16, encoding: 'pcm' }, [minute(i), minute(q)]);
  await race('ssb, 60 s of I/Q at 192 kHz (goal 0.4, at most 0.5)', bytes, 'ssb_scipy.py', [String(CARRIER_HZ)], async () =>
    measureSsb(await openWav(bytesInMemory(bytes)), { carrierHz: CARRIER_HZ }),
  );
}

/** Ten minutes of talk through the transmitter, block by block. */
async function benchRender(): Promise<void> {
  const bytes = writeWav({ sampleRateHz: 48000, channels: 1, bits: 16, encoding: 'pcm' }, [await talk(48000, 600)]);
  const rig = parseRig(JSON.parse(readFileSync(join(root, 'demo/rigs/tern-100.json'), 'utf8')));
  const plain = parametersOf(rig, factoryCard(rig, 'usb'));
  const parameters: TransmitterParameters = {
    ...plain,
    equalizer: [peaking(plain.rateHz, 300, -4, 1.5), peaking(plain.rateHz, 1200, 2, 1), peaking(plain.rateHz, 2400, 6, 1)],
    compression: { kind: 'rf', compressionDb: 10, ceilingDb: 4 },
  };
  const room = { ...QUIET_ROOM, noiseDb: null };
  await race('rendering 10 min (goal 0.35, at most 0.5)', bytes, 'render_scipy.py', [], async () => {
    const source = await openWav(bytesInMemory(bytes));
    const microphone = { microphone: null, use: null, room, seed: 1 };
    const transmitter = new Transmitter(parameters, { inputRateHz: source.sampleRateHz, voiceGainDb: 0, microphone });
    for await (const [block] of source.blocks()) transmitter.push(block);
    transmitter.end();
  });
}

/** Reach of one card, with the flat reference that it is told against; and of one more. */
async function benchReach(): Promise<void> {
  const rig = parseRig(JSON.parse(readFileSync(join(root, 'demo/rigs/tern-100.json'), 'utf8')));
  const source = await openWav(bytesInMemory(over));
  const samples = (await readAll(source)).subarray(0, 10 * source.sampleRateHz);
  const station = { rig, radio: USUAL_RADIO, microphone: { microphone: null, use: null, room: QUIET_ROOM, seed: 1 } };
  const start = performance.now();
  const judge = new CardJudge({ samples, rateHz: source.sampleRateHz }, station);
  judge.judge(factoryCard(rig, 'usb'));
  const first = performance.now() - start;
  const times = Array.from({ length: 12 }, (_, k) => {
    const from = performance.now();
    judge.judge({ mode: 'usb', values: { processor: 'on', 'processor-level': 8 * k } });
    return performance.now() - from;
  });
  console.log(
    `reach of one card, 10 s of talk (guide: 3 s): ${(first / 1000).toFixed(1)} s; each of 12 more ${median(times).toFixed(0)} ms`,
  );
}

/** How long the command line takes to start, against bare Node. */
function benchStart(): void {
  const wall = (args: readonly string[]) => {
    const start = performance.now();
    execFileSync(args[0], args.slice(1), { stdio: 'ignore' });
    return performance.now() - start;
  };
  const [ours, bare]: number[][] = [[], []];
  for (let i = 0; i < 2 * RUNS; i++) {
    ours.push(wall([join(root, 'bin/dialtune'), '--help']));
    bare.push(wall(['node', '-e', '0']));
  }
  console.log(
    `dialtune --help: ${(median(ours) - median(bare)).toFixed(0)} ms more than bare Node's ${median(bare).toFixed(0)} ms (guide: 50 ms)`,
  );
}

if (process.argv[2] === 'advice') await benchAdvice(process.argv.slice(3));
else if (process.argv[2] === 'advice-shard') adviceShard();
else {
  benchStart();
  await benchRender();
  await benchFit();
  await benchReach();
  await benchVoice();
  await benchSsb();
}
