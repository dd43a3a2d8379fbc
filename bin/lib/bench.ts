/**
 * bin/bench: what the heavy work costs, as ratios where another program does the same. Whole processes run in turn, so that
 * a noisy machine disturbs both; start-up alone is taken off either. `--write` keeps the table in docs/speed.md.
 */
import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fitEqualizer } from '../../src/core/advice/fitEqualizer.ts';
import { defaultTarget } from '../../src/core/advice/targets.ts';
import { atRate } from '../../src/core/dsp/filter/resample.ts';
import { gaussian, seededRandom } from '../../src/core/dsp/statistics/random.ts';
import { bytesInMemory } from '../../src/core/files/byteSource.ts';
import { openWav, readAll } from '../../src/core/files/samples.ts';
import { writeWav } from '../../src/core/files/wavWriter.ts';
import { CardJudge } from '../../src/core/intelligibility/cardJudge.ts';
import { measureVoice } from '../../src/core/measure/voice/voice.ts';
import { ssbModulate } from '../../src/core/modem/ssb.ts';
import { factoryCard } from '../../src/core/rig/card.ts';
import { parseRig } from '../../src/core/rig/validate.ts';
import { QUIET_ROOM } from '../../src/core/simulate/transmitter/microphoneStage.ts';
import { USUAL_RADIO } from '../../src/core/simulate/transmitter/parameters.ts';
import { adviceShard, benchAdvice } from './advice/bench.ts';

const RUNS = 5;
const root = process.cwd();
const median = (times: readonly number[]) => [...times].sort((a, b) => a - b)[Math.floor(times.length / 2)];

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

/** Talk at a rate: the demo over again and again. */
async function talk(rateHz: number, seconds: number): Promise<Float64Array> {
  const source = await openWav(bytesInMemory(over));
  const once = atRate(await readAll(source), source.sampleRateHz, rateHz);
  return Float64Array.from({ length: seconds * rateHz }, (_, n) => once[n % once.length]);
}

/** CPU seconds of a whole process, and what it printed. */
function cpuOf(command: readonly string[]): { seconds: number; text: string } {
  const timed = spawnSync('bash', ['-c', 'TIMEFORMAT="%U %S"; time "$@"', 'bash', ...command], { encoding: 'utf8', maxBuffer: 1 << 26 });
  if (timed.status !== 0) throw new Error(`${command.join(' ')}: ${timed.stderr}`);
  const [user, system] = (timed.stderr.trim().split('\n').at(-1) ?? '').split(' ').map(Number);
  return { seconds: user + system, text: timed.stdout };
}

interface Race {
  readonly name: string;
  readonly goal: number;
  readonly ours: readonly string[];
  /** Script in bin/lib/peers, and what it is told. */
  readonly peer: readonly [string, ...string[]];
  /** Keys that both print, and how far they may lie apart. */
  readonly compared: Readonly<Record<string, number>>;
}

const DIALTUNE = join(root, 'bin/dialtune');
const PYTHON = '/usr/bin/python3';

/** Runs both in turn. @returns a row of the table */
function race({ name, goal, ours, peer: [script, ...told], compared }: Race): string[] {
  const path = join(root, 'bin/lib/peers', script);
  const cost: Record<'our start' | 'peer start' | 'ours' | 'peer', number[]> = { 'our start': [], 'peer start': [], ours: [], peer: [] };
  let [said, heard] = ['', ''];
  for (let k = 0; k <= RUNS; k++) {
    const round = {
      'peer start': cpuOf([PYTHON, path]).seconds,
      'our start': cpuOf([DIALTUNE, '--version']).seconds,
      peer: cpuOf([PYTHON, path, ...told]),
      ours: cpuOf([DIALTUNE, ...ours]),
    };
    // The first round warms the caches.
    if (k === 0) continue;
    cost['peer start'].push(round['peer start']);
    cost['our start'].push(round['our start']);
    cost.peer.push(round.peer.seconds);
    cost.ours.push(round.ours.seconds);
    [said, heard] = [round.ours.text, round.peer.text];
  }
  const [mine, theirs] = [median(cost.ours) - median(cost['our start']), median(cost.peer) - median(cost['peer start'])];
  const [a, b] = [JSON.parse(said), JSON.parse(heard)];
  const apart = Object.entries(compared).filter(([key, most]) => !(Math.abs(a[key] - b[key]) <= most));
  const agreement =
    apart.length === 0 ? Object.keys(compared).join(', ') : `APART: ${apart.map(([key]) => `${key} ${a[key]} ${b[key]}`).join(', ')}`;
  return [name, `${mine.toFixed(2)} s`, `${theirs.toFixed(2)} s`, (mine / theirs).toFixed(2), goal.toFixed(2), agreement];
}

const CARRIER_HZ = 12_500;

/** The files that the races run on. */
async function raceFiles(folder: string): Promise<{ voice: string; iq: string; station: string; out: string }> {
  const path = (name: string) => join(folder, name);
  const voice = writeWav({ sampleRateHz: 48000, channels: 1, bits: 16, encoding: 'pcm' }, [await talk(48000, 600)]);
  writeFileSync(path('voice.wav'), voice);
  const rateHz = 192_000;
  // Faded at both ends: it is put together again and again, and a click at the seam is no voice.
  const fade = 0.05 * rateHz;
  const piece = (await talk(rateHz, 4)).map((x, n, all) => x * Math.min(1, n / fade, (all.length - 1 - n) / fade));
  const { i, q } = ssbModulate(piece, rateHz, CARRIER_HZ, 'usb');
  const normal = gaussian(seededRandom(1));
  const minute = (part: Float64Array) =>
    Float64Array.from({ length: 60 * rateHz }, (_, n) => 0.5 * part[n % part.length] + 1e-4 * normal());
  writeFileSync(path('iq.wav'), writeWav({ sampleRateHz: rateHz, channels: 2, bits: 16, encoding: 'pcm' }, [minute(i), minute(q)]));
  const rig = JSON.parse(readFileSync(join(root, 'demo/rigs/tern-100.json'), 'utf8'));
  const card = { processor: 'on', 'processor-level': 50 };
  writeFileSync(path('station.json'), JSON.stringify({ rig, card, receivers: [{ name: 'near', snrDb: 60 }] }));
  return { voice: path('voice.wav'), iq: path('iq.wav'), station: path('station.json'), out: path('out.wav') };
}

async function benchRaces(): Promise<string> {
  const folder = mkdtempSync(join(tmpdir(), 'dialtune-bench-'));
  try {
    const { voice, iq, station, out } = await raceFiles(folder);
    const rows = [
      race({
        name: 'ssb: 60 s of I/Q at 192 kHz',
        goal: 0.5,
        ours: ['measure', iq, '--as', 'ssb', '--carrier', String(CARRIER_HZ), '--json'],
        peer: ['ssb.py', iq, String(CARRIER_HZ)],
        // The peer tells talk by 85 ms, we by 50: its mean holds a little less of the gaps.
        compared: { carrierDb: 0.5, oppositeSidebandDb: 0.5, occupiedBandwidthHz: 30, peakToAverageDb: 1 },
      }),
      race({
        name: 'voice: 10 min at 48 kHz',
        goal: 0.6,
        ours: ['measure', voice, '--json'],
        peer: ['voice.py', voice],
        compared: { activeSpeechLevelDb: 0.05, loudnessLufs: 0.05, peakToAverageDb: 0.05, noiseFloorDb: 0.2, pitchHz: 8 },
      }),
      race({
        name: 'transmitter: 10 min, its stages alone',
        goal: 0.5,
        ours: ['simulate', '--station', station, '--voice', voice, '--out', out, '--transmitter', '--json'],
        peer: ['chain.py', voice, join(folder, 'peer.wav')],
        compared: {},
      }),
    ];
    const head = ['work', 'Dial Tune', 'peer', 'ratio', 'goal', 'numbers that agree'];
    return [head, head.map(() => '---'), ...rows].map((row) => `| ${row.join(' | ')} |`).join('\n');
  } finally {
    rmSync(folder, { recursive: true });
  }
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

const DOCS = join(root, 'docs/speed.md');
const [BEGIN, END] = ['<!-- table -->', '<!-- end of table -->'];

if (process.argv[2] === 'advice') await benchAdvice(process.argv.slice(3));
else if (process.argv[2] === 'advice-shard') adviceShard();
else {
  benchStart();
  await benchFit();
  await benchReach();
  const table = await benchRaces();
  console.log(table);
  if (process.argv[2] === '--write') {
    const [before, rest] = readFileSync(DOCS, 'utf8').split(BEGIN);
    writeFileSync(DOCS, `${before}${BEGIN}\n\n${table}\n\n${END}${rest.split(END)[1]}`);
  }
}
