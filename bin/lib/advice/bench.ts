/** bin/bench advice: the engine in a loop on seeded stations, beside the script by hand. Neither sees what the radio hides. */
import { execFileSync, fork } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { availableParallelism, tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { closedLoop, defaultTarget, type LoopOver, nextAnswer } from '../../../src/core/advice/index.ts';
import { byHand } from '../../../src/core/advice/next/byHand.ts';
import { nextChannelDb } from '../../../src/core/advice/next/drive.ts';
import { ALC_SCHOOL_KEYS, COMPRESSIONS } from '../../../src/core/advice/next/schools.ts';
import { toneBasis, usualErrorDb } from '../../../src/core/advice/toneError.ts';
import { percentile, VOICE_TWELFTH_OCTAVES } from '../../../src/core/dsp/index.ts';
import { effective, type Purpose, type RigProfile } from '../../../src/core/rig/index.ts';
import { type Fixed, OtherStation, otherTrial } from './otherStations.ts';
import { ownTrial } from './ownStations.ts';
import type { Trial, Truth } from './trial.ts';

const USUAL_STATIONS = 60;

const KINDS = ['alc', 'compression', 'tone', 'nextChannel'] as const;
type Kind = (typeof KINDS)[number];

interface Outcome {
  /** The goal, or a "stop" where no mic gain leads to it. */
  readonly isReached: boolean;
  readonly overs: number;
  readonly isWorse: boolean;
  readonly isWrongDone: boolean;
  /** Of each kind of expected interval of 80 % how many held, and how many there were. */
  readonly held: Readonly<Record<Kind, readonly [held: number, promised: number]>>;
}

const worse = (before: Truth, after: Truth): boolean =>
  (before.isAlcInZone && !after.isAlcInZone) ||
  (before.isDriveClean && !after.isDriveClean) ||
  (before.isCompressionRight && !after.isCompressionRight) ||
  (before.toneErrorDb !== null && after.toneErrorDb !== null && after.toneErrorDb > before.toneErrorDb + 1);

async function run(trial: Trial, advisor: typeof nextAnswer, isTraced: boolean): Promise<Outcome> {
  const radio = await trial.radio();
  const before = await trial.truth({ mode: 'usb', values: radio.card.values });
  const loop = await closedLoop(radio, trial.wish, advisor);
  const last = loop[loop.length - 1];
  const after = await trial.truth(last.card);
  const isDone = last.answer.status === 'done';
  const isStopRight = last.answer.status === 'stop' && (await trial.isLevelInReach?.(last.card)) === false;
  const outcome = {
    isReached: (isDone && after.isReached) || isStopRight,
    overs: loop.length,
    isWorse: worse(before, after),
    isWrongDone: isDone && !after.isReached,
    held: promises(radio.rig, loop, trial.wish.purpose),
  };
  if (isTraced) {
    const lines = [`${trial.name} ${JSON.stringify({ before, after })}`];
    for (const over of loop) {
      const { answer, seen, card } = over;
      const set = answer.set.map(({ dial, from, to }) => `${dial.id} ${from} -> ${to}`).join(', ');
      const told = `${JSON.stringify(answer.goal)} expected ${JSON.stringify(answer.expected)}`;
      const heardDb = heardErrorDb(radio.rig, over, trial.wish.purpose);
      lines.push(
        `  ${answer.status} ALC ${seen.alc} tone ${heardDb?.toFixed(2)} next ${nextChannelDb(seen.radios)?.toFixed(1)} ${told} ${answer.why} ${set} truth ${JSON.stringify(await trial.truth(card))}`,
      );
    }
    // At once: another process writes beside it.
    console.error(lines.join('\n'));
  }
  return outcome;
}

/** Of what was expected of the next over, how much came true. */
function promises(rig: RigProfile, loop: readonly LoopOver[], purpose: Purpose): Outcome['held'] {
  const held: Record<Kind, [number, number]> = { alc: [0, 0], compression: [0, 0], tone: [0, 0], nextChannel: [0, 0] };
  for (const [k, { answer }] of loop.entries()) {
    const next = loop[k + 1];
    if (!next) continue;
    // An eye reads to a twentieth of the scale, and to a decibel.
    for (const [kind, interval, got, readTo] of [
      ['alc', answer.expected.alc, next.seen.alc, 0.025],
      ['compression', answer.expected.compressionDb, next.seen.compressionDb, 0.5],
      ['tone', answer.expected.toneErrorDb, heardErrorDb(rig, next, purpose), 0],
      ['nextChannel', answer.expected.adjacentDb, nextChannelDb(next.seen.radios), 0],
    ] as const) {
      if (!interval || got === null) continue;
      held[kind][1]++;
      if (got >= interval[0] - readTo && got <= interval[2] + readTo) held[kind][0]++;
    }
  }
  return held;
}

/** RMS off the target that an over shows by itself. */
function heardErrorDb(rig: RigProfile, { seen, card }: LoopOver, purpose: Purpose): number | null {
  const [heard] = seen.voices;
  if (!heard) return null;
  const [low, high] = effective(rig, card).passbandHz;
  const [from, to] = heard.passbandHz ?? [low, high];
  const basis = toneBasis(heard.detail, defaultTarget(purpose), [Math.max(low, from), Math.min(high, to)]);
  return usualErrorDb(
    basis,
    VOICE_TWELFTH_OCTAVES.map(() => 0),
  );
}

function line(name: string, all: readonly Outcome[]): string {
  const overs = all.filter(({ isReached }) => isReached).map((each) => each.overs);
  const count = (key: 'isReached' | 'isWorse' | 'isWrongDone') => all.filter((each) => each[key]).length;
  const sum = (kinds: readonly Kind[], k: 0 | 1) =>
    all.reduce((total, { held }) => kinds.reduce((more, kind) => more + held[kind][k], total), 0);
  const share = (kinds: readonly Kind[]) => (sum(kinds, 1) > 0 ? `${Math.round((100 * sum(kinds, 0)) / sum(kinds, 1))} %` : '-');
  const kept = `${share(KINDS)} (ALC ${share(['alc'])}, tone ${share(['tone'])})`;
  const [half, most] = overs.length > 0 ? [percentile(overs, 50), percentile(overs, 90)].map(Math.round) : ['-', '-'];
  return `| ${name} | ${count('isReached')} of ${all.length} | ${half} | ${most} | ${count('isWorse')} | ${count('isWrongDone')} | ${kept} |`;
}

interface Shard {
  readonly world: 'own' | 'other';
  readonly seeds: readonly number[];
  readonly folder: string;
  readonly isTraced: boolean;
  readonly isHand: boolean;
  readonly fixed: Fixed;
}

/** A part of the stations, in a process of its own. */
async function runShard({ world, seeds, folder, isTraced, isHand, fixed }: Shard): Promise<void> {
  const program = world === 'other' ? new OtherStation(folder, fixed) : null;
  for (const seed of seeds) {
    const trial = program ? await otherTrial(seed, program) : await ownTrial(seed, folder);
    const ours = await run(trial, nextAnswer, isTraced);
    const hand = isHand ? await run(trial, byHand, false) : ours;
    process.send?.({ seed, ours, hand });
  }
  program?.end();
  setImmediate(() => process.disconnect?.());
}

const WORLDS = ['own', 'other'] as const;
const USAGE =
  'bin/bench advice [--world own|other] [--stations N] [--from N] [--scatter DB] [--school NAME] [--compression NAME] [--trace] [--no-hand]';

/** @throws Error with the usage where something is unknown or no number */
function parse(args: readonly string[]) {
  const text = { type: 'string' } as const;
  const flag = { type: 'boolean' } as const;
  const { values } = parseArgs({
    args: [...args],
    options: { world: text, stations: text, from: text, scatter: text, school: text, compression: text, trace: flag, 'no-hand': flag },
  });
  const number = (name: 'stations' | 'from' | 'scatter', usual: number) => {
    const value = values[name] === undefined ? usual : Number(values[name]);
    if (!Number.isFinite(value) || value < 0) throw new Error(`--${name} is no number`);
    return value;
  };
  const oneOf = (name: 'world' | 'school' | 'compression', known: readonly string[]) => {
    const value = values[name];
    if (value !== undefined && !known.includes(value)) throw new Error(`--${name} is one of ${known.join(', ')}`);
    return value ?? null;
  };
  const world = oneOf('world', WORLDS);
  const [school, compression] = [oneOf('school', ALC_SCHOOL_KEYS), oneOf('compression', COMPRESSIONS)];
  const isFixed = school !== null || compression !== null || values.scatter !== undefined;
  if (isFixed && world !== 'other') throw new Error('--scatter, --school and --compression go with --world other');
  return {
    worlds: WORLDS.filter((name) => world === null || world === name),
    from: number('from', 1),
    stations: number('stations', USUAL_STATIONS),
    isTraced: values.trace === true,
    isHand: values['no-hand'] !== true,
    fixed: {
      scatterDb: values.scatter === undefined ? null : number('scatter', 1),
      school,
      compression,
    },
  };
}

/** @param args what stands behind "advice" */
export async function benchAdvice(args: readonly string[]): Promise<void> {
  let asked: ReturnType<typeof parse>;
  try {
    asked = parse(args);
  } catch (error) {
    console.error(`${error instanceof Error ? error.message : error}\n${USAGE}`);
    process.exitCode = 2;
    return;
  }
  const { worlds, from, stations, isTraced, isHand, fixed } = asked;
  const folder = mkdtempSync(join(tmpdir(), 'dialtune-advice-'));
  try {
    execFileSync('/usr/bin/python3', ['tests/validation/overs.py', folder]);
    console.log(
      '| | goal reached | overs, median | overs, 90 % | left worse | wrong "done" | 80 % intervals that held |\n|---|---|---|---|---|---|---|',
    );
    for (const world of worlds) {
      const [ours, hand]: [Outcome[], Outcome[]] = [[], []];
      const cores = availableParallelism();
      await Promise.all(
        Array.from({ length: cores }, (_, core) => {
          const seeds = Array.from({ length: stations }, (_, k) => from + k).filter((seed) => seed % cores === core);
          const child = fork(process.argv[1], ['advice-shard']);
          child.send({ world, seeds, folder, isTraced, isHand, fixed } satisfies Shard);
          child.on('message', (message: { seed: number; ours: Outcome; hand: Outcome }) => {
            ours.push(message.ours);
            hand.push(message.hand);
            process.stderr.write(`${world} ${message.seed} ${JSON.stringify(message.ours)}\n`);
            if (isHand) process.stderr.write(`by hand ${message.seed} ${JSON.stringify(message.hand)}\n`);
          });
          return new Promise<void>((resolve, reject) =>
            child.on('exit', (code) => (code === 0 ? resolve() : reject(new Error(`${world}: ended with ${code}`)))),
          );
        }),
      );
      console.log(line(`Dial Tune, ${world} stations`, ours));
      if (isHand) console.log(line(`script by hand, ${world} stations`, hand));
    }
  } finally {
    rmSync(folder, { recursive: true });
  }
}

/** What a process of its own does: it waits to be told its stations. */
export const adviceShard = (): unknown => process.once('message', (shard: Shard) => void runShard(shard));
