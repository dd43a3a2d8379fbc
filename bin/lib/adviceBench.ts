/**
 * bin/bench advice [--stations N]: the engine in a loop on seeded simulated stations, beside the script by hand. Voices are
 * recorded ones (tests/validation/overs.py), four texts each; neither side sees what the radio hides.
 */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { closedLoop, type LoopOptions, nextAnswer, type TrueState, trueState } from '../../src/core/advice/index.ts';
import { byHand } from '../../src/core/advice/next/byHand.ts';
import { seededRandom } from '../../src/core/dsp/index.ts';
import { bytesInMemory, openWav, type SampleSource } from '../../src/core/files/index.ts';
import { PURPOSES, parseRig, type RigProfile } from '../../src/core/rig/index.ts';
import { parseStation, type SimulatedStation, voiceGain } from '../../src/core/simulate/index.ts';

const OVERS = 10;
const USUAL_STATIONS = 24;
const VOICES = ['a', 'b', 'c', 'd', 'e', 'f'];
const TEXTS = 4;
const RIGS = ['tern-100', 'fulmar-8', 'knot-5'];
const SCHOOLS = ['cautious', '30-50', 'full'];
const COMPRESSIONS = ['none', 'token', 'weak-mic'] as const;
/** Microphone responses: dull, boomy, bright. */
const MICROPHONES: readonly (readonly (readonly [number, number])[])[] = [
  [
    [100, 0],
    [800, 0],
    [1500, -4],
    [3000, -8],
  ],
  [
    [100, 8],
    [250, 5],
    [600, 0],
    [3000, 0],
  ],
  [
    [100, -6],
    [400, -2],
    [1000, 0],
    [3000, 7],
  ],
];

interface Trial {
  readonly station: SimulatedStation;
  readonly voices: readonly SampleSource[];
  readonly options: LoopOptions;
}

/** A station of a seed: rig, voice, microphone, a card somebody left, and what the radio hides. */
async function trialOf(seed: number, folder: string): Promise<Trial> {
  const random = seededRandom(7919 * seed);
  for (let k = 0; k < 10; k++) random();
  const between = (low: number, high: number) => low + (high - low) * random();
  const pick = <T>(all: readonly T[]): T => all[Math.min(all.length - 1, Math.floor(random() * all.length))];
  const rig = parseRig(JSON.parse(readFileSync(`demo/rigs/${RIGS[seed % RIGS.length]}.json`, 'utf8')));
  const evidence = ['iq', 'audio', 'weak'][seed % 3];
  const voice = pick(VOICES);
  const voices = await Promise.all(
    Array.from({ length: TEXTS }, (_, n) => openWav(bytesInMemory(new Uint8Array(readFileSync(join(folder, `${voice}-${n}.wav`)))))),
  );
  const school = pick(SCHOOLS);
  const compression = pick(COMPRESSIONS);
  const alcZone = { cautious: [0.25, 0.5], '30-50': [0.3, 0.5], full: [0.5, 0.67] }[school] as [number, number];
  const station = parseStation({
    rig,
    mode: 'usb',
    seed,
    card: badCard(rig, random),
    microphone: microphoneOf(pick(MICROPHONES)),
    operator: { loudnessDb: between(-3, 3) },
    receivers: [evidence === 'weak' ? { name: 'far', snrDb: 22, passbandHz: [200, 2900], fading: null } : { name: 'near', snrDb: 45 }],
    truth: {
      equalizerWidth: random() < 0.5 ? 'octaves' : 'q',
      clickDb: between(0.75, 1.2),
      passbandError: [between(-40, 60), between(-100, 60)],
      micGain: { middleDb: between(12, 22), spanDb: between(28, 48) },
      processor: { kind: random() < 0.5 ? 'rf' : 'audio', mostDb: between(14, 26), ceilingDb: between(3, 5) },
      amplifier: { saturationDb: between(0.4, 3), smoothness: between(1.5, 4) },
      balance: { carrierDb: -60, oppositeDb: -60 },
      room: { noiseDb: between(-55, -38) },
    },
  });
  const options: LoopOptions = {
    purpose: pick(PURPOSES.slice(0, 3)),
    school: { alcZone, compression },
    overs: OVERS,
    tap: evidence === 'weak' ? 'remote' : 'second',
    hasIq: evidence === 'iq',
    voiceGainDb: (await voiceGain(voices[0])) ?? 0,
  };
  return { station, voices, options };
}

/** A card as somebody left it: any gain, some of the equalizer turned. */
function badCard(rig: RigProfile, random: () => number): Record<string, number | string> {
  const values: Record<string, number | string> = {};
  for (const dial of rig.dials) {
    if (dial.scale.kind !== 'steps') continue;
    const { min, max, step } = dial.scale;
    const at = (share: number) => min + step * Math.round((share * (max - min)) / step);
    if (dial.role === 'mic-gain') values[dial.id] = at(0.15 + 0.8 * random());
    else if (dial.stage === 'equalizer' && dial.unit === 'dB' && random() < 0.4) values[dial.id] = at(0.2 + 0.7 * random());
  }
  return values;
}

const microphoneOf = (curve: readonly (readonly [number, number])[]) => ({
  format: 'dialtune-microphone',
  version: 1,
  name: 'bench',
  kind: 'dynamic',
  pattern: 'cardioid',
  level: 'medium',
  distanceCm: 5,
  curveDistanceCm: 5,
  positions: [{ name: 'flat', curve }],
  accessories: [],
});

interface Outcome {
  readonly isReached: boolean;
  readonly overs: number;
  readonly isWorse: boolean;
  readonly isWrongDone: boolean;
}

const worse = (before: TrueState, after: TrueState): boolean =>
  (before.isAlcInZone && !after.isAlcInZone) ||
  (before.isDriveClean && !after.isDriveClean) ||
  (before.isCompressionRight && !after.isCompressionRight) ||
  (before.toneErrorDb !== null && after.toneErrorDb !== null && after.toneErrorDb > before.toneErrorDb + 1);

async function run({ station, voices, options }: Trial, advisor: typeof nextAnswer, isTraced: boolean): Promise<Outcome> {
  const before = await trueState(station, station.card, voices[TEXTS - 1], options);
  const loop = await closedLoop(station, voices, options, advisor);
  const last = loop[loop.length - 1];
  const after = await trueState(station, last.card, voices[TEXTS - 1], options);
  const isDone = last.answer.status === 'done';
  if (isTraced) console.error(JSON.stringify({ options: { ...options, signal: undefined }, before, after }));
  for (const { answer, meters } of isTraced ? loop : []) {
    const set = answer.set.map(({ dial, from, to }) => `${dial.id} ${from} -> ${to}`).join(', ');
    console.error(`  ${answer.status} ALC ${meters.alc.usual?.toFixed(2)} ${JSON.stringify(answer.goal)} ${answer.why} ${set}`);
  }
  return {
    isReached: isDone && after.isReached,
    overs: loop.length,
    isWorse: worse(before, after),
    isWrongDone: isDone && !after.isReached,
  };
}

const part = (sorted: readonly number[], share: number): string =>
  sorted.length === 0 ? '-' : String(sorted[Math.min(sorted.length - 1, Math.ceil(share * sorted.length) - 1)]);

function line(name: string, all: readonly Outcome[]): string {
  const overs = all
    .filter(({ isReached }) => isReached)
    .map((each) => each.overs)
    .sort((a, b) => a - b);
  const count = (key: 'isReached' | 'isWorse' | 'isWrongDone') => all.filter((each) => each[key]).length;
  return `| ${name} | ${count('isReached')} of ${all.length} | ${part(overs, 0.5)} | ${part(overs, 0.9)} | ${count('isWorse')} | ${count('isWrongDone')} |`;
}

/** @param args what stands behind "advice" */
export async function benchAdvice(args: readonly string[]): Promise<void> {
  const option = (name: string, usual: number) => {
    const at = args.indexOf(name);
    return at < 0 ? usual : Number(args[at + 1]);
  };
  const [from, stations] = [option('--from', 1), option('--stations', USUAL_STATIONS)];
  const isTraced = args.includes('--trace');
  const folder = mkdtempSync(join(tmpdir(), 'dialtune-advice-'));
  try {
    execFileSync('/usr/bin/python3', ['tests/validation/overs.py', folder]);
    const [ours, hand]: [Outcome[], Outcome[]] = [[], []];
    for (let seed = from; seed < from + stations; seed++) {
      const trial = await trialOf(seed, folder);
      ours.push(await run(trial, nextAnswer, isTraced));
      hand.push(await run(trial, byHand, false));
      process.stderr.write(`${seed} ${JSON.stringify(ours.at(-1))} ${JSON.stringify(hand.at(-1))}\n`);
    }
    console.log('| | goal reached | overs, median | overs, 90 % | left worse | wrong "done" |\n|---|---|---|---|---|---|');
    console.log(line('Dial Tune', ours));
    console.log(line('script by hand', hand));
  } finally {
    rmSync(folder, { recursive: true });
  }
}
