/** Stations of a program that shares nothing with the transmitter of this one: tests/validation/station.py. */
import { type ChildProcess, spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { createInterface } from 'node:readline';
import { defaultTarget, type LoopRadio, type SchoolWish, type SeenOver, type SeenVoice } from '../../../src/core/advice/index.ts';
import { bytesInMemory, openWav } from '../../../src/core/files/index.ts';
import { measureRecording, type SsbMeasurement, type VoiceDetail } from '../../../src/core/measure/index.ts';
import { type Card, effective, PURPOSES, type Purpose, parseRig, type RigProfile, startRig } from '../../../src/core/rig/index.ts';
import { OVERS, type Trial, type Truth } from './trial.ts';

/** Five shapes of radio: two banks, eight sliders, two knobs, one bank, ten sliders. */
const RIGS: readonly RigProfile[] = [
  ...['tern-100', 'fulmar-8', 'knot-5'].map((name) => parseRig(JSON.parse(readFileSync(`demo/rigs/${name}.json`, 'utf8')))),
  startRig({ shape: 'parametric', name: 'one bank', bands: 3, hasTwoBanks: false }),
  startRig({ shape: 'graphic', name: 'ten sliders', bands: 10, hasTwoBanks: false }),
];
const TARGETS = Object.fromEntries(PURPOSES.slice(0, 3).map((purpose) => [purpose, defaultTarget(purpose)]));

interface Told {
  readonly card: Card['values'];
  readonly purpose: Purpose;
  readonly evidence: 'iq' | 'audio' | 'weak';
  readonly rig: string;
  readonly voice: string;
  readonly school: SchoolWish;
  readonly isDead: boolean;
  readonly hidden: object;
}

interface OverMade {
  readonly alc: number;
  readonly compressionDb: number;
  readonly files: { readonly voice: string; readonly ssb?: string };
  readonly passbandHz: readonly [number, number];
}

/** What may be the same on all stations; null or left out: as the seed has it. */
export interface Fixed {
  /** How much the operator's level differs from over to over. */
  readonly scatterDb: number | null;
  readonly school: string | null;
  readonly compression: string | null;
}

/** A running station.py. Questions go out one after another. */
export class OtherStation {
  private readonly program: ChildProcess;
  private readonly lines: AsyncIterator<string>;

  /**
   * @param folder    holds the voices and takes the recordings
   * @param fixed what is the same on all of them
   */
  constructor(
    folder: string,
    private readonly fixed: Fixed,
  ) {
    this.program = spawn('/usr/bin/python3', ['tests/validation/station.py', folder, folder], { stdio: ['pipe', 'pipe', 'inherit'] });
    if (!this.program.stdout) throw new Error('station.py has no output');
    this.lines = createInterface({ input: this.program.stdout })[Symbol.asyncIterator]();
  }

  private async ask<T>(order: object): Promise<T> {
    this.program.stdin?.write(`${JSON.stringify(order)}\n`);
    const { value, done } = await this.lines.next();
    if (done) throw new Error('station.py ended early');
    return JSON.parse(value);
  }

  /** The station of a seed, as it was left. */
  begin = (seed: number) => this.ask<Told>({ begin: { seed, rigs: RIGS, targets: TARGETS, ...this.fixed } });
  over = (card: Card['values'], text: number) => this.ask<OverMade>({ over: card, text });
  truth = (card: Card['values']) => this.ask<Truth>({ truth: card });
  mend = () => this.ask<object>({ mend: true });
  end(): void {
    this.program.stdin?.end();
  }
}

/** @param program is asked by one trial at a time */
export async function otherTrial(seed: number, program: OtherStation): Promise<Trial> {
  const told = await program.begin(seed);
  const rig = RIGS[seed % RIGS.length];
  return {
    name: `other ${seed}: ${rig.name}, ${told.evidence}, voice ${told.voice}, ${JSON.stringify(told.school)}, ${told.purpose}${told.isDead ? ', DEAD' : ''} ${JSON.stringify(told.hidden)}`,
    wish: { purpose: told.purpose, school: told.school, overs: OVERS },
    radio: async () => {
      const { isDead } = await program.begin(seed);
      let isBroken = isDead;
      return {
        rig,
        card: { mode: 'usb', values: told.card },
        over: async (card, k) => seenOf(rig, card, await program.over(card.values, k), told.evidence),
        // The operator looks at the switch that was named, and finds it.
        mend: async ({ learned }) => {
          if (!isBroken || learned.deadDials.length === 0) return false;
          isBroken = false;
          await program.mend();
          return true;
        },
      } satisfies LoopRadio;
    },
    truth: (card) => program.truth(card.values),
  };
}

async function seenOf(rig: RigProfile, card: Card, made: OverMade, evidence: Told['evidence']): Promise<SeenOver> {
  const { passbandHz } = effective(rig, card);
  const open = (path: string) => openWav(bytesInMemory(new Uint8Array(readFileSync(path))));
  const heard = await measureRecording('voice', await open(made.files.voice), { passbandHz });
  const radio = made.files.ssb
    ? await measureRecording('ssb', await open(made.files.ssb), { carrierHz: 0, sideband: 'usb', passbandHz })
    : null;
  return {
    card: { ...card, use: null },
    alc: made.alc,
    compressionDb: made.compressionDb,
    swr: 1.2,
    voices:
      heard.measurement.kind === 'voice' && heard.detail
        ? [
            {
              tap: evidence === 'weak' ? 'remote' : 'second',
              passbandHz: made.passbandHz,
              result: heard.measurement,
              detail: heard.detail as VoiceDetail,
            } satisfies SeenVoice,
          ]
        : [],
    radios: radio ? [radio.measurement as SsbMeasurement] : [],
  };
}
