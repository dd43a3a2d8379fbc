/**
 * Does the fit hold what it promises? Fitted on one over of a recorded voice, tried on others of the same voice with other
 * texts. Microphones and passbands are filters made by SciPy's taps (scipy.signal.firwin2), not the product's.
 */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type EqualizerFit, fitEqualizer } from '../../src/core/advice/fitEqualizer.ts';
import { defaultTarget } from '../../src/core/advice/targets.ts';
import { toneBasis, toneErrorDb } from '../../src/core/advice/toneError.ts';
import { FftFilter } from '../../src/core/dsp/filter/fftFilter.ts';
import { mean, median } from '../../src/core/dsp/statistics/statistics.ts';
import { joined } from '../../src/core/dsp/stream/joined.ts';
import { bytesInMemory } from '../../src/core/files/byteSource.ts';
import { mixDown, openWav } from '../../src/core/files/samples.ts';
import type { VoiceDetail } from '../../src/core/measure/measurement.ts';
import { measureVoice } from '../../src/core/measure/voice/voice.ts';
import { factoryCard } from '../../src/core/rig/card.ts';
import { effective } from '../../src/core/rig/effective.ts';
import { enableEqualizer, responseOf } from '../../src/core/rig/response.ts';
import { parseRig } from '../../src/core/rig/validate.ts';
import { python } from '../support/python.ts';
import { mix, noise, PCM16, sourceOf } from '../support/signals.ts';

const RATE = 16000;
const VOICES = ['a', 'b', 'c', 'd', 'e', 'f'];
const TEXTS = [0, 1, 2, 3];
/** Microphone curves through the usual transmit passband: [Hz], [dB]. */
const MICS: Record<string, readonly [readonly number[], readonly number[]]> = {
  dull: [
    [0, 500, 1000, 1500, 3000, 8000],
    [0, 0, -1, -4, -8, -10],
  ],
  boomy: [
    [0, 150, 300, 500, 2000, 8000],
    [8, 8, 5, 1, 0, 2],
  ],
};
const rig = parseRig(JSON.parse(readFileSync('demo/rigs/tern-100.json', 'utf8')));
const card = enableEqualizer(rig, factoryCard(rig));
const target = defaultTarget('balanced');
const { passbandHz } = effective(rig, card);
const folder = mkdtempSync(join(tmpdir(), 'dialtune-fit-'));
afterAll(() => rmSync(folder, { recursive: true }));

interface Trial {
  readonly fit: EqualizerFit;
  readonly before: number;
  readonly after: number;
}
const trials: Record<1 | 2, Trial[]> = { 1: [], 2: [] };

async function oversOf(voice: string, taps: Float64Array): Promise<VoiceDetail[]> {
  const details: VoiceDetail[] = [];
  for (const text of TEXTS) {
    const source = await openWav(bytesInMemory(new Uint8Array(readFileSync(join(folder, `${voice}-${text}.wav`)))));
    const filter = new FftFilter({ i: taps });
    const parts: Float64Array[] = [];
    for await (const block of source.blocks()) parts.push(filter.push(mixDown(block)).i.slice());
    parts.push(filter.end().i);
    const heard = joined(parts);
    const samples = mix(heard, noise(RATE, heard.length / RATE, 0.001, text + 1));
    details.push((await measureVoice(await sourceOf(RATE, [samples], PCM16 as never), { passbandHz })).detail);
  }
  return details;
}

/** @param first which of the texts the fit begins with */
function tryOut(all: readonly VoiceDetail[], first: number, used: 1 | 2): Trial {
  const overs = [...all.slice(first), ...all.slice(0, first)];
  const flat = responseOf(rig, card);
  const [own, ...others] = overs.slice(0, used);
  const fit = fitEqualizer({ rig, card, voice: own, others: others.map((voice) => ({ voice, responseDb: flat })), target });
  const error = (values: typeof card.values) => {
    const change = responseOf(rig, { mode: card.mode, values }).map((db, i) => db - flat[i]);
    return mean(overs.slice(used).map((over) => toneErrorDb(toneBasis(over, target, fit.passbandHz), change)));
  };
  return { fit, before: error(card.values), after: error(fit.best.values) };
}

beforeAll(async () => {
  execFileSync('/usr/bin/python3', ['tests/validation/overs.py', folder]);
  const taps = python<Record<string, number[]>>(
    `result={}
for name,(hz,db) in data['mics'].items():
    low,high=data['edges']
    shape=sig.firwin2(401,np.array(hz)/8000,10**(np.array(db)/20))
    band=sig.firwin(401,[low,high],pass_zero=False,fs=16000)
    result[name]=np.convolve(shape,band).tolist()`,
    { mics: MICS, edges: passbandHz },
  );
  for (const voice of VOICES) {
    for (const mic of Object.keys(MICS)) {
      const overs = await oversOf(voice, Float64Array.from(taps[mic]));
      for (const used of [1, 2] as const) for (const first of TEXTS) trials[used].push(tryOut(overs, first, used));
    }
  }
}, 900_000);

const promised = ({ fit }: Trial) => fit.errorBeforeDb - fit.best.errorDb;
const came = ({ before, after }: Trial) => before - after;

describe('a fit on recorded voices', () => {
  it.each([1, 2] as const)('from %i over(s) holds at least nine tenths of what it promises', (used) => {
    expect(mean(trials[used].map(came)) / mean(trials[used].map(promised))).toBeGreaterThanOrEqual(0.9);
  });

  it('says how sure it is, and is right about it', () => {
    const hits = trials[1].filter(({ fit, after }) => Math.abs(after - fit.best.errorDb) <= 1.28 * fit.best.uncertaintyDb);
    // Of 80 % intervals; a dozen trials leave that some room.
    expect(hits.length / trials[1].length).toBeGreaterThanOrEqual(0.6);
    for (const { fit } of trials[1]) expect(fit.best.uncertaintyDb).toBeLessThan(1.5);
  });

  it('moves few dials and swings moderately', () => {
    expect(median(trials[1].map(({ fit }) => fit.best.moves.length))).toBeLessThanOrEqual(6);
    const swings = trials[1].map(({ fit }) => {
      const levels = Object.entries(fit.best.values).flatMap(([id, value]) => (/^[np]-\w+-level$/.test(id) ? [Number(value)] : []));
      return Math.max(...levels) - Math.min(...levels);
    });
    // Between the highest and the lowest level of a band; the processor has a level too, and is none.
    expect(median(swings)).toBeLessThanOrEqual(12);
    expect(Math.max(...swings)).toBeLessThanOrEqual(18);
  });

  it('is nearly never worse than before, and more overs make it better', () => {
    for (const trial of [...trials[1], ...trials[2]]) expect(came(trial)).toBeGreaterThan(-0.5);
    expect(mean(trials[2].map(({ after }) => after))).toBeLessThan(mean(trials[1].map(({ after }) => after)) + 0.1);
  });
});
