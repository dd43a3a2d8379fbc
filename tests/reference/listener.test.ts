/**
 * Reach against a listener that knows nothing of it: Debian's speech recogniser (pocketsphinx, its US English model) on
 * recorded sentences of its own test data, whose words are known, sent through three cards at one peak envelope power and
 * into the same noise. What reaches further by the index must be understood better by the recogniser, in the same order.
 */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, expect, it } from 'vitest';
import { resampled } from '../../src/core/dsp/filter/resample.ts';
import { joined } from '../../src/core/dsp/stream/joined.ts';
import { bytesInMemory } from '../../src/core/files/byteSource.ts';
import { openWav, readPart } from '../../src/core/files/samples.ts';
import { CardJudge } from '../../src/core/intelligibility/cardJudge.ts';
import { type Card, factoryCard } from '../../src/core/rig/card.ts';
import { parseRig } from '../../src/core/rig/validate.ts';
import { hearCard } from '../../src/core/simulate/hear/hearCard.ts';
import { CLEAR_PATH } from '../../src/core/simulate/path/path.ts';
import { GOOD_RECEIVER } from '../../src/core/simulate/receiver/receiver.ts';
import type { StationSetting, Voice } from '../../src/core/simulate/station/voiceAndStation.ts';
import { QUIET_ROOM } from '../../src/core/simulate/transmitter/microphoneStage.ts';
import { USUAL_RADIO } from '../../src/core/simulate/transmitter/parameters.ts';

const folder = mkdtempSync(join(tmpdir(), 'dialtune-listener-'));
afterAll(() => rmSync(folder, { recursive: true }));

const DATA = '/usr/share/pocketsphinx/test/data/cards';
const MODEL = '/usr/share/pocketsphinx/model/en-us';
const RATE = 16000;
/** The same words in as many noises. */
const DRAWS = 4;
/** Peak envelope power over noise in 3 kHz: hard to understand, but not hopeless. */
const SNR_DB = 24;

const rig = parseRig(JSON.parse(readFileSync('demo/rigs/tern-100.json', 'utf8')));
const flat = factoryCard(rig);
const CARDS: Record<'dull' | 'flat' | 'compressed', Card> = {
  dull: { ...flat, values: { ...flat.values, 'mic-eq': 'on', 'n-high-centre': 2400, 'n-high-level': -20, 'n-high-width': 1 } },
  flat,
  compressed: { ...flat, values: { ...flat.values, processor: 'on', 'processor-level': 40 } },
};
const station: StationSetting = {
  rig,
  radio: USUAL_RADIO,
  microphone: { microphone: null, use: null, room: { ...QUIET_ROOM, noiseDb: null }, seed: 1 },
};

/** Sentences by name, with their words. */
const SAID = new Map(
  readFileSync(`${DATA}/cards.transcription`, 'utf8')
    .split('\n')
    .flatMap((line) => {
      const found = /^<s>(.*)<\/s>\s*\((\w+)\)/.exec(line);
      return found ? [[found[2], found[1].trim().split(/\s+/)] as const] : [];
    }),
);

async function voiceOf(name: string): Promise<Voice> {
  const source = await openWav(bytesInMemory(new Uint8Array(readFileSync(`${DATA}/${name}.wav`))));
  return { samples: await readPart(source, 0, source.frames), rateHz: source.sampleRateHz };
}

/** Keeps a sound for the recogniser, as 16-bit samples without a header. */
function keep(name: string, samples: Float64Array, rateHz: number): void {
  const loud = resampled(samples, RATE / rateHz);
  const peak = loud.reduce((most, x) => Math.max(most, Math.abs(x)), 1e-9);
  writeFileSync(
    join(folder, `${name}.raw`),
    Int16Array.from(loud, (x) => Math.round((16000 * x) / peak)),
  );
}

function understood(names: readonly string[]): Map<string, string[]> {
  writeFileSync(join(folder, 'files'), `${names.join('\n')}\n`);
  const paths = ['-cepdir', folder, '-ctl', join(folder, 'files'), '-hyp', join(folder, 'heard'), '-logfn', '/dev/null'];
  const model = ['-jsgf', `${DATA}/cards.gram`, '-hmm', `${MODEL}/en-us`, '-dict', `${MODEL}/cmudict-en-us.dict`, '-cmn', 'current'];
  // All that is heard is to be heard: the recogniser's own noise reduction stays off.
  const options = ['-adcin', 'yes', '-cepext', '.raw', '-remove_noise', 'no', '-remove_silence', 'no'];
  execFileSync('pocketsphinx_batch', [...paths, ...model, ...options], { stdio: 'ignore' });
  return new Map(
    readFileSync(join(folder, 'heard'), 'utf8')
      .split('\n')
      .flatMap((line) => {
        const found = /^(.*)\((\S+) [-\d]+\)$/.exec(line);
        return found ? [[found[2], found[1].trim().split(/\s+/)] as const] : [];
      }),
  );
}

/** Words wrong, missing or too many: the edit distance. */
function mistakes(said: readonly string[], heard: readonly string[]): number {
  let row = [...heard.keys(), heard.length];
  for (const [i, word] of said.entries()) {
    const next = [i + 1];
    heard.forEach((other, j) => {
      next.push(Math.min(row[j] + (word === other ? 0 : 1), row[j + 1] + 1, next[j] + 1));
    });
    row = next;
  }
  return row[heard.length];
}

it('what reaches further is understood better, in the same order', async () => {
  const wrong = { dull: 0, flat: 0, compressed: 0 };
  const reach = { dull: 0, flat: 0, compressed: 0 };
  const voices = new Map<string, Voice>();
  for (const sentence of SAID.keys()) voices.set(sentence, await voiceOf(sentence));
  const whole = joined([...voices.values()].map(({ samples }) => samples));
  const judge = new CardJudge({ samples: whole, rateHz: RATE }, station);
  let all = 0;
  for (const name of Object.keys(CARDS) as (keyof typeof CARDS)[]) {
    reach[name] = judge.judge(CARDS[name]).reach.reachDb ?? -20;
    const files: string[] = [];
    for (const [sentence, voice] of voices) {
      for (let draw = 0; draw < DRAWS; draw++) {
        const way = { path: { ...CLEAR_PATH, snrDb: SNR_DB, seed: draw + 1 }, receiver: { ...GOOD_RECEIVER, agc: null } };
        const { samples, rateHz } = hearCard(voice, station, CARDS[name], 'heard', way);
        files.push(`${sentence}-${draw}`);
        keep(`${sentence}-${draw}`, samples, rateHz);
      }
    }
    const heard = understood(files);
    all = 0;
    for (const file of files) {
      const said = SAID.get(file.split('-')[0]) ?? [];
      wrong[name] += mistakes(said, heard.get(file) ?? []);
      all += said.length;
    }
  }
  const told = JSON.stringify({ wrong, all, reach });
  expect(reach.compressed, told).toBeGreaterThan(reach.flat + 1);
  expect(reach.flat, told).toBeGreaterThan(reach.dull + 1);
  expect(wrong.compressed, told).toBeLessThan(wrong.flat - 0.05 * all);
  expect(wrong.flat, told).toBeLessThan(wrong.dull - 0.05 * all);
}, 900_000);
