/**
 * Makes the demo scenario: synthetic voices (espeak-ng) through room, mic, radio, path and receiver, and the
 * week's log around them. The moves in it are the product's own: each fit is worked out from the over before.
 * Run with `npm run demo` (needs espeak-ng and sox); the results are checked in.
 */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type EqualizerFit, fitEqualizer } from '../src/core/advice/fitEqualizer.ts';
import { rankMoves } from '../src/core/advice/nextMove.ts';
import { SCHOOL_RULES, startingCard } from '../src/core/advice/startingCard.ts';
import { defaultTarget } from '../src/core/advice/targets.ts';
import { type Biquad, BiquadChain, cascadeDb, highPass, highShelf, lowPass, lowShelf, peaking } from '../src/core/dsp/filter/biquad.ts';
import { bandPassTaps, filterCentred } from '../src/core/dsp/filter/fir.ts';
import { gaussian, type Random, seededRandom } from '../src/core/dsp/statistics/random.ts';
import { bytesInMemory } from '../src/core/files/byteSource.ts';
import { openWav, readAll } from '../src/core/files/samples.ts';
import { writeWav } from '../src/core/files/wavWriter.ts';
import { measureVoice } from '../src/core/measure/voice/voice.ts';
import { type DialValues, factoryCard } from '../src/core/rig/card.ts';
import { effective } from '../src/core/rig/effective.ts';
import { bandFilter } from '../src/core/rig/equalizer.ts';
import type { Microphone } from '../src/core/rig/microphone.ts';
import type { RigProfile } from '../src/core/rig/rig.ts';
import { parseRig } from '../src/core/rig/validate.ts';
import { dbToAmplitude } from '../src/core/units/conversions.ts';
import type { Scenario } from '../src/server/demo/demo.ts';
import { MEMORIES, PLANNED_CARDS, RADIOS, RIG_FILES } from './cards.ts';
import { ON_AIR } from './onAir.ts';
import { MICROPHONES, OPERATORS, RECEIVERS } from './people.ts';
import { EVENTS, type PlannedOver, TEXTS } from './week.ts';

const RATE = 48000;
const FILE_RATE = 12000;
const folder = join(process.cwd(), 'demo');
const work = mkdtempSync(join(tmpdir(), 'dialtune-demo-'));
const rigs = new Map(
  RIG_FILES.map((file) => {
    const rig = parseRig(JSON.parse(readFileSync(join(folder, file), 'utf8')));
    return [rig.name, rig] as const;
  }),
);

/** Speech at 48 kHz, full-scale peak 0.5. */
async function speak(over: PlannedOver): Promise<Float64Array> {
  const { espeak } = OPERATORS.find(({ name }) => name === over.operator) ?? OPERATORS[0];
  const raw = join(work, 'raw.wav');
  const wav = join(work, 'voice.wav');
  // Lively intonation: a flat one puts every harmonic in the same place, which no real voice does.
  execFileSync('espeak-ng', [...espeak, '-m', '-w', raw, `<speak><prosody range="200%">${TEXTS[over.text]}</prosody></speak>`]);
  execFileSync('sox', ['-D', raw, '-r', String(RATE), '-c', '1', '-b', '16', wav, 'norm', '-6', 'pad', '0.4', '0.5']);
  return readAll(await openWav(bytesInMemory(new Uint8Array(readFileSync(wav)))));
}

type Planned = (typeof MICROPHONES)[number];

const microphoneFilters = ({ bassDb, trebleDb, riseHz, riseDb }: Planned): Biquad[] => [
  lowShelf(RATE, 180, bassDb),
  highShelf(RATE, 1800, trebleDb),
  peaking(RATE, riseHz, riseDb, 1.2),
];

/** The curve that filters make, as a table of measurements would have it. */
const CURVE_HZ = [80, 100, 150, 200, 300, 400, 600, 800, 1000, 1500, 2000, 2500, 3000, 4000, 5000];
const curveOf = (filters: readonly Biquad[]): [number, number][] =>
  CURVE_HZ.map((hz) => [hz, Math.round(10 * (cascadeDb(filters, RATE, hz) - cascadeDb(filters, RATE, 1000))) / 10 + 0]);

/** The curves are taken where the mic is talked into: the proximity effect is in them. */
function microphoneOf(planned: Planned): Microphone {
  const { name, kind, pattern, level, distanceCm, note, position, other, accessory } = planned;
  const own = microphoneFilters(planned);
  const shelf = other && (other.shelf === 'low' ? lowShelf : highShelf)(RATE, other.hz, other.db);
  return {
    format: 'dialtune-microphone',
    version: 1,
    name,
    kind,
    pattern,
    level,
    distanceCm,
    curveDistanceCm: distanceCm,
    positions: [
      { name: position, curve: curveOf(own) },
      ...(other && shelf ? [{ name: other.name, curve: curveOf([...own, shelf]) }] : []),
    ],
    accessories: accessory ? [{ name: accessory.name, curve: curveOf([highShelf(RATE, accessory.hz, accessory.db)]) }] : [],
    ...(note ? { note } : {}),
  };
}

/** Noise with a level in dB re full scale, a little duller than white. */
function addNoise(samples: Float64Array, levelDb: number, random: Random): void {
  const normal = gaussian(random);
  const noise = Float64Array.from(samples, () => normal());
  new BiquadChain([lowPass(RATE, 1200, 0.5)]).process(noise);
  let power = 0;
  for (const x of noise) power += x * x;
  const gain = dbToAmplitude(levelDb) / Math.sqrt(power / noise.length);
  for (let n = 0; n < samples.length; n++) samples[n] += gain * noise[n];
}

/** A smooth compressor: fast up, slow down, ratio 3 above the threshold. */
function compress(samples: Float64Array, thresholdDb: number): void {
  const threshold = dbToAmplitude(thresholdDb);
  let envelope = 0;
  for (let n = 0; n < samples.length; n++) {
    const x = Math.abs(samples[n]);
    envelope += (x > envelope ? 0.02 : 0.0002) * (x - envelope);
    if (envelope > threshold) samples[n] *= (threshold / envelope) ** (2 / 3);
  }
}

function colour(voice: Float64Array, over: PlannedOver, rig: RigProfile, values: DialValues, seed: number): Float64Array {
  const random = seededRandom(seed);
  const out = voice.slice();
  const operator = OPERATORS.find(({ name }) => name === over.operator) ?? OPERATORS[0];
  new BiquadChain(operator.colour.map(([hz, db, octaves]) => peaking(RATE, hz, db, octaves))).process(out);
  addNoise(out, over.roomDb, random);
  if (over.humDb !== undefined) {
    const hum = dbToAmplitude(over.humDb);
    for (let n = 0; n < out.length; n++)
      out[n] += hum * (Math.sin((2 * Math.PI * 50 * n) / RATE) + 0.6 * Math.sin((2 * Math.PI * 150 * n) / RATE));
  }
  const microphone = MICROPHONES.find(({ name }) => name === over.microphone) ?? MICROPHONES[0];
  new BiquadChain([...microphoneFilters(microphone), highPass(RATE, 80)]).process(out);
  const settings = effective(rig, { mode: rig.modes[0], values });
  new BiquadChain(settings.bands.map((band) => bandFilter(rig, band, settings.values))).process(out);
  const isCompressed = [settings.values.processor, settings.values.compressor].includes('on');
  if (isCompressed) compress(out, -24);
  if (over.fault === 'dull') new BiquadChain([highShelf(RATE, 1500, -9)]).process(out);
  if (over.fault === 'thin') new BiquadChain([lowShelf(RATE, 900, -18)]).process(out);
  const [low, high] = settings.passbandHz;
  const sent = filterCentred(out, bandPassTaps(RATE, low, high, 801));
  const receiver = RECEIVERS.find(({ name }) => name === over.receiver) ?? RECEIVERS[0];
  addNoise(sent, over.pathDb, random);
  const heard = filterCentred(sent, bandPassTaps(RATE, receiver.lowHz, receiver.highHz, 801));
  let peak = 0;
  for (const x of heard) peak = Math.max(peak, Math.abs(x));
  const gain = over.fault === 'clipped' ? 2.2 / peak : 0.5 / peak;
  return heard.map((x) => Math.max(-1, Math.min(1, x * gain)));
}

async function makeOver(over: PlannedOver, rig: RigProfile, values: DialValues, seed: number): Promise<Uint8Array> {
  const samples = colour(await speak(over), over, rig, values, seed);
  const full = join(work, 'full.wav');
  const small = join(work, 'small.wav');
  writeFileSync(full, writeWav({ sampleRateHz: RATE, channels: 1, bits: 32, encoding: 'float' }, [samples]));
  // Dither would differ from run to run; a clipped file must stay clipped, so it is only decimated.
  execFileSync('sox', ['-D', full, '-b', '16', '-r', String(FILE_RATE), small]);
  const half = await readAll(await openWav(bytesInMemory(new Uint8Array(readFileSync(small)))));
  if (over.fault === 'clipped') for (let n = 0; n < half.length; n++) half[n] = Math.max(-1, Math.min(1, half[n] * 1.3));
  return writeWav({ sampleRateHz: FILE_RATE, channels: 1, bits: 16, encoding: 'pcm' }, [half]);
}

async function main(): Promise<void> {
  for (const name of readdirSync(join(folder, 'overs'))) rmSync(join(folder, 'overs', name));
  const values = new Map<string, DialValues>();
  const begun = new Map<string, DialValues>();
  for (const card of PLANNED_CARDS) {
    const rig = rigs.get(card.rig);
    if (!rig) throw new Error(`There is no rig ${card.rig}.`);
    const start = card.school ? startingCard(rig, card.mode, card.school).values : factoryCard(rig, card.mode).values;
    values.set(card.key, { ...start, ...card.start });
    begun.set(card.key, { ...start, ...card.start });
  }
  const events: Scenario['events'][number][] = [];
  const fits = new Map<string, { fit: EqualizerFit; ranked: ReturnType<typeof rankMoves> }>();
  for (const [i, event] of EVENTS.entries()) {
    const card = PLANNED_CARDS.find(({ key }) => key === event.card);
    const now = values.get(event.card);
    const rig = card && rigs.get(card.rig);
    if (!card || !now || !rig) throw new Error(`Event ${i} names an unknown card.`);
    if (event.kind === 'over') {
      const planned = { ...event, operator: card.operator, microphone: card.microphone };
      const file = `${String(i + 1).padStart(2, '0')}-${event.key}.wav`;
      const bytes = await makeOver(planned, rig, now, 100 + i);
      writeFileSync(join(folder, 'overs', file), bytes);
      const also: { receiver: string; file: string }[] = [];
      for (const [k, { receiver, pathDb }] of (event.also ?? []).entries()) {
        const name = file.replace('.wav', `-${receiver.split(' ')[0].toLowerCase()}.wav`);
        writeFileSync(join(folder, 'overs', name), await makeOver({ ...planned, receiver, pathDb }, rig, now, 200 + 10 * i + k));
        also.push({ receiver, file: name });
      }
      const { measurement, detail } = await measureVoice(await openWav(bytesInMemory(bytes)));
      const receiver = RECEIVERS.find(({ name }) => name === event.receiver) ?? RECEIVERS[0];
      if (rig.equalizer.kind !== 'none') {
        const heardWith = { mode: card.mode, values: now };
        const fit = fitEqualizer({
          rig,
          card: heardWith,
          voice: detail,
          target: defaultTarget(card.purpose),
          receiverPassbandHz: [receiver.lowHz, receiver.highHz],
        });
        const ranked = rankMoves({ rig, heardWith, voice: detail, basis: fit.basis, passbandHz: fit.passbandHz }, heardWith);
        fits.set(event.key, { fit, ranked });
        console.log(
          event.key,
          `${fit.errorBeforeDb.toFixed(2)} -> ${fit.best.errorDb.toFixed(2)} dB`,
          measurement.findings.map(({ code, severity }) => `${code}:${severity}`).join(' '),
        );
      } else console.log(event.key, measurement.findings.map(({ code, severity }) => `${code}:${severity}`).join(' '));
      const { key, at, receiver: receiverName, load, powerW, alcReading, note } = event;
      events.push({
        kind: 'over',
        key,
        at,
        card: event.card,
        receiver: receiverName,
        load,
        powerW,
        alcReading,
        note,
        file,
        ...(also.length > 0 && { also }),
      });
      continue;
    }
    const found = event.over === null ? undefined : fits.get(event.over);
    const take = event.moves === 'all' ? found?.fit.best.moves : found?.ranked.slice(0, event.moves).map(({ move }) => move);
    const change: DialValues = { ...Object.fromEntries((take ?? []).map(({ dial, to }) => [dial.id, to])), ...event.set };
    const why = Object.fromEntries((take ?? []).map(({ dial, why: reason }) => [dial.id, reason]));
    values.set(event.card, { ...now, ...change });
    events.push({
      kind: 'revision',
      at: event.at,
      card: event.card,
      over: event.over,
      values: change,
      reason: event.reason,
      why: { ...why, ...event.why },
    });
  }
  const scenario: Scenario = {
    operators: OPERATORS.map(({ name, callsign, note }) => ({ name, callsign, note })),
    microphones: MICROPHONES.map(microphoneOf),
    rigs: RIG_FILES,
    receivers: RECEIVERS,
    cards: PLANNED_CARDS.map(({ school, ...card }) => ({
      ...card,
      start: school && begun.has(card.key) ? (begun.get(card.key) ?? {}) : card.start,
      ...(school && !card.reason ? { reason: `starting point: ${SCHOOL_RULES[school].text.toLowerCase()}` } : {}),
    })),
    radios: RADIOS,
    memories: MEMORIES,
    events: events.filter((event) => event.kind !== 'over' || event.also === undefined),
    onAir: [...events.filter((event) => event.kind === 'over' && event.also !== undefined), ...ON_AIR],
  };
  writeFileSync(join(folder, 'scenario.json'), `${JSON.stringify(scenario, null, 1)}\n`);
  rmSync(work, { recursive: true });
}

await main();
