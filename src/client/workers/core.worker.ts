/** The page's web worker: heavy work of the core, off the page's thread. */
import { expose } from 'comlink';
import { createSHA256 } from 'hash-wasm';
import {
  type AirCheck,
  adviseEqualizer,
  airCheckNext,
  type CheckedCard,
  type CheckNext,
  type CopiedCard,
  copyOrSay,
  type FitAnswer,
  type FitInput,
  type NextAnswer,
  type NextInput,
  nextAnswer,
  type School,
  type StartingCard,
  startingCard,
} from '@/core/advice/index.ts';
import { type Spectrogram, type TestSignalShape, testSignal } from '@/core/dsp/index.ts';
import {
  bytesOfBlob,
  openSigmf,
  openWav,
  parseSigmfMeta,
  readPart,
  sha512Warnings,
  sigmfFrequencyHz,
  sigmfLayout,
  wavData,
  wavHeader,
  writeWav,
} from '@/core/files/index.ts';
import { guessKind, LiveMeter, type LiveReading, type MeasurementKind, type VoiceDetail } from '@/core/measure/index.ts';
import { type Heard, listen, listeningGain, look, type View } from '@/core/playback/index.ts';
import type { Card, DialValues, Mode, RigProfile } from '@/core/rig/index.ts';
import { type Audition, audition, busiestPart } from '@/core/simulate/index.ts';
import { type TuneMove, tuneMove } from '@/core/tune/index.ts';
import { storedCapture } from './storedCapture.ts';

const HASH_BYTES = 4 << 20;
const LONGEST_AUDITION_S = 15;

export interface AuditionInput {
  readonly captureId: number;
  readonly bytes: number;
  readonly detail: Pick<VoiceDetail, 'stripActive' | 'stripSeconds'>;
  readonly rig: RigProfile;
  readonly heardWith: Card;
  readonly card: Card;
}

/** The one live reading of this page. */
let live: LiveMeter | null = null;

const work = {
  /** What a file seems to be. @param radioKind what an I/Q recording would be of; "voice" where it can't be told */
  async guessKind(file: Blob, radioKind: MeasurementKind): Promise<MeasurementKind> {
    try {
      return await guessKind(bytesOfBlob(file), radioKind);
    } catch {
      // What is wrong with it is told when it is sent.
      return 'voice';
    }
  },

  /** A SigMF recording's two files as one WAV file, with what that file can't hold. @throws FormatError */
  async sigmfAsWav(metaFile: Blob, data: Blob): Promise<{ wav: Blob; remark: string; tunedHz: number | null }> {
    const meta = parseSigmfMeta(await metaFile.text());
    const bytes = bytesOfBlob(data);
    const source = openSigmf(meta, bytes, await sha512Warnings(meta, bytes));
    const parts: Uint8Array[] = [];
    const layout = sigmfLayout(meta, data.size);
    const bits = layout.isSigned8 ? 16 : layout.bits;
    const shape = { sampleRateHz: Math.round(layout.sampleRateHz), channels: 2, bits, encoding: layout.encoding };
    const header = wavHeader(shape, layout.frames) as Uint8Array<ArrayBuffer>;
    const facts = { remark: source.warnings.join(' '), tunedHz: sigmfFrequencyHz(meta) };
    if (!layout.isSigned8) return { wav: new Blob([header, data.slice(0, layout.frames * ((2 * bits) / 8))]), ...facts };
    // WAV has no signed 8-bit samples.
    for await (const block of source.blocks()) parts.push(wavData(shape, block));
    return { wav: new Blob([header, ...parts] as Uint8Array<ArrayBuffer>[]), ...facts };
  },

  /** What to do next at a step of a Tune run. */
  tuneMove: (input: NextInput, card: Card): TuneMove => tuneMove(input, card),

  /** What to do next, from all overs of a card. */
  next: (input: NextInput): NextAnswer => nextAnswer(input),

  /** What to do next in an air check. */
  airCheckNext: (checked: CheckedCard, check: AirCheck): CheckNext => airCheckNext(checked, check),

  fit: (input: FitInput): FitAnswer | string => adviseEqualizer(input),

  /** A school's numbers on a rig. */
  startingCard: (rig: RigProfile, mode: Mode, school: School): StartingCard => startingCard(rig, mode, school),

  copyCard: (rig: RigProfile, card: Card, other: RigProfile, start?: DialValues): CopiedCard | string => copyOrSay(rig, card, other, start),

  /** SHA-256 of a file, lower-case hex. @param onProgress told the share done */
  async hash(file: Blob, onProgress: (share: number) => void): Promise<string> {
    const hasher = await createSHA256();
    for (let at = 0; at < file.size; at += HASH_BYTES) {
      hasher.update(new Uint8Array(await file.slice(at, at + HASH_BYTES).arrayBuffer()));
      onProgress(Math.min(1, (at + HASH_BYTES) / file.size));
    }
    return hasher.digest('hex');
  },

  /** Part of a stored recording as audio, at the common listening level, and what it was multiplied by for that. */
  async listen(captureId: number, bytes: number, view: View, fromS: number, lengthS: number): Promise<Heard & { readonly gain: number }> {
    const { samples, rateHz } = await listen(await openWav(storedCapture(captureId, bytes)), view, fromS, lengthS);
    const gain = listeningGain(samples, rateHz);
    return { samples: samples.map((x) => gain * x), rateHz, gain };
  },

  /** A stored recording as a spectrogram. */
  look: async (captureId: number, bytes: number, view: View, columns: number): Promise<Spectrogram> =>
    look(await openWav(storedCapture(captureId, bytes)), view, columns),

  /** Begins a live reading. */
  startLive(sampleRateHz: number): void {
    live = new LiveMeter(sampleRateHz);
  },

  /** What came since the last call. @returns null before `startLive` */
  live(blocks: readonly Float32Array[]): LiveReading | null {
    let reading: LiveReading | null = null;
    for (const block of blocks) reading = live?.push(block) ?? null;
    return reading;
  },

  /** Begins peak hold anew. */
  releaseLive(): void {
    live?.release();
  },

  /** Samples as a WAV file, bit by bit. */
  asRecording: (samples: Float32Array, sampleRateHz: number): Blob =>
    new Blob([writeWav({ sampleRateHz, channels: 1, bits: 32, encoding: 'float' }, [samples]) as Uint8Array<ArrayBuffer>]),

  testSignal: (shape: TestSignalShape): Float64Array => testSignal(shape),

  /** The same as a 24-bit WAV file. */
  testSignalFile: (shape: TestSignalShape): Blob =>
    new Blob([
      writeWav({ sampleRateHz: shape.rateHz, channels: 1, bits: 24, encoding: 'pcm' }, [testSignal(shape)]) as Uint8Array<ArrayBuffer>,
    ]),

  /** The busiest part of a stored recording, before and after a change of card. */
  async audition({ captureId, bytes, detail, rig, heardWith, card }: AuditionInput): Promise<Audition & { rateHz: number }> {
    const source = await openWav(storedCapture(captureId, bytes));
    const points = Math.ceil(LONGEST_AUDITION_S / detail.stripSeconds);
    const from = Math.round(busiestPart(detail.stripActive, points) * detail.stripSeconds * source.sampleRateHz);
    const samples = await readPart(source, from, from + LONGEST_AUDITION_S * source.sampleRateHz);
    return { ...audition(samples, source.sampleRateHz, rig, heardWith, card), rateHz: source.sampleRateHz };
  },
};

export type CoreWork = typeof work;
expose(work);
