/** The page's web worker: heavy work of the core, off the page's thread. */
import { expose } from 'comlink';
import { createSHA256 } from 'hash-wasm';
import { type Audition, audition, busiestStretch } from '../core/advice/audition.ts';
import { type EqualizerFit, FitImpossible, type FitInput, fitEqualizer } from '../core/advice/fitEqualizer.ts';
import { type RankedMove, rankMoves } from '../core/advice/nextMove.ts';
import type { ByteSource } from '../core/formats/byteSource.ts';
import { openWav, readStretch } from '../core/formats/samples.ts';
import type { VoiceDetail } from '../core/measure/measurement.ts';
import type { Card } from '../core/station/card.ts';
import type { RigProfile } from '../core/station/rig.ts';

const HASH_BYTES = 4 << 20;
const READ_BYTES = 4 << 20;
const LONGEST_AUDITION_S = 15;

export interface FitAnswer {
  readonly fit: EqualizerFit;
  readonly ranked: readonly RankedMove[];
}

export interface AuditionInput {
  readonly captureId: number;
  readonly bytes: number;
  readonly detail: Pick<VoiceDetail, 'stripActive' | 'stripSeconds'>;
  readonly rig: RigProfile;
  readonly heardWith: Card;
  readonly card: Card;
}

const work = {
  /** The fit and its moves in order of merit; a sentence where there can be none. */
  fit(input: FitInput): FitAnswer | string {
    try {
      const fit = fitEqualizer(input);
      const hearing = {
        rig: input.rig,
        heardWith: input.heardWith ?? input.card,
        voice: input.voice,
        basis: fit.basis,
        passbandHz: fit.passbandHz,
      };
      return { fit, ranked: rankMoves(hearing, input.card) };
    } catch (error) {
      if (error instanceof FitImpossible) return error.message;
      throw error;
    }
  },

  /** SHA-256 of a file, lower-case hex. @param onProgress told the share done */
  async hash(file: Blob, onProgress: (share: number) => void): Promise<string> {
    const hasher = await createSHA256();
    for (let at = 0; at < file.size; at += HASH_BYTES) {
      hasher.update(new Uint8Array(await file.slice(at, at + HASH_BYTES).arrayBuffer()));
      onProgress(Math.min(1, (at + HASH_BYTES) / file.size));
    }
    return hasher.digest('hex');
  },

  /** The busiest stretch of a stored recording, before and after a change of card. */
  async audition({ captureId, bytes, detail, rig, heardWith, card }: AuditionInput): Promise<Audition & { rateHz: number }> {
    const source = await openWav(storedCapture(captureId, bytes));
    const points = Math.ceil(LONGEST_AUDITION_S / detail.stripSeconds);
    const from = Math.round(busiestStretch(detail.stripActive, points) * detail.stripSeconds * source.sampleRateHz);
    const samples = await readStretch(source, from, from + LONGEST_AUDITION_S * source.sampleRateHz);
    return { ...audition(samples, source.sampleRateHz, rig, heardWith, card), rateHz: source.sampleRateHz };
  },
};

/** A stored capture, read in ranges; a few mebibytes are kept so that small reads cost no request each. */
function storedCapture(captureId: number, size: number): ByteSource {
  let kept: { from: number; bytes: Uint8Array } | null = null;
  return {
    size,
    async read(offset, length) {
      const end = Math.min(size, offset + length);
      if (!kept || offset < kept.from || end > kept.from + kept.bytes.length) {
        const to = Math.min(size, Math.max(end, offset + READ_BYTES)) - 1;
        const response = await fetch(`/api/captures/${captureId}`, { headers: { range: `bytes=${offset}-${to}` } });
        if (!response.ok) throw new Error('The recording could not be fetched.');
        kept = { from: offset, bytes: new Uint8Array(await response.arrayBuffer()) };
      }
      return kept.bytes.subarray(offset - kept.from, end - kept.from);
    },
  };
}

export type CoreWork = typeof work;
expose(work);
