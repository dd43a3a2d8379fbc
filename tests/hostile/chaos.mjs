/**
 * npm run chaos -- KILLS [SEED]: kills the database, the web server and the start command at random moments of a
 * scripted load, then looks for everything that was acknowledged. Exit code 1 when anything is lost or stays down.
 */
import { setTimeout as wait } from 'node:timers/promises';
import { pathToFileURL } from 'node:url';
import { build } from '../../bin/lib/build.mjs';
import { hashOf, recording, Station, seeded } from './station.mjs';

const CLIENTS = 3;

/** What the clients were told is kept, and what they don't know of. */
class Ledger {
  overs = new Map();
  cards = new Map();
  /** Answers of each kind: acknowledged, refused or broken off. */
  told = { kept: 0, broken: 0 };
}

/** One client: uploads, notes, cards and looks, one after the other, until told to stop. */
async function client(station, ledger, random, isOver) {
  while (!isOver()) {
    try {
      const dice = random();
      if (dice < 0.45) {
        const stored = await station.upload(recording(random), { cardRevisionId: 1, receiverId: 1 });
        ledger.overs.set(stored.overId, { ...stored, notes: new Set(['']) });
      } else if (dice < 0.75 && ledger.overs.size > 0) {
        await note(station, ledger, random);
      } else if (dice < 0.9) {
        const name = `Chaos ${Math.floor(random() * 1e9)}`;
        const made = await station.act('makeCard', { name, operatorId: 1, rigId: 1, microphoneId: 1, mode: 'usb', purpose: 'balanced' });
        if (!made.ok) throw new Error(made.message);
        ledger.cards.set(made.value, name);
      } else {
        const look = random() < 0.5 ? '/overs' : '/api/station';
        await (await fetch(station.address + look)).arrayBuffer();
        continue;
      }
      ledger.told.kept++;
    } catch {
      ledger.told.broken++;
      await wait(100);
    }
  }
}

/** A note that was not acknowledged may stand or not; one that was must. */
async function note(station, ledger, random) {
  const overs = [...ledger.overs.values()];
  const over = overs[Math.floor(random() * overs.length)];
  // One at a time an over: who was last is then known.
  if (over.isBusy) return;
  over.isBusy = true;
  const text = `note ${Math.floor(random() * 1e9)}`;
  over.notes.add(text);
  try {
    const answer = await station.act('saveOverNote', { overId: over.overId, alcReading: null, note: text });
    if (!answer.ok) throw new Error(answer.message);
    over.notes = new Set([text]);
  } finally {
    over.isBusy = false;
  }
}

/** Everything that was acknowledged and is not there; empty when all is. */
async function missing(station, ledger) {
  const lost = [];
  const csv = await (await fetch(`${station.address}/api/overs.csv`)).text();
  for (const { overId, captureId, measurementId, sha256, notes } of ledger.overs.values()) {
    const line = csv.split('\r\n').find((each) => each.startsWith(`${overId},`));
    if (!line) lost.push(`over ${overId} is not in the log`);
    else if (![...notes].some((text) => line.endsWith(`,${text}`))) lost.push(`over ${overId}: its note is none of those that were sent`);
    const bytes = Buffer.from(await (await fetch(`${station.address}/api/captures/${captureId}`)).arrayBuffer());
    if (hashOf(bytes) !== sha256) lost.push(`over ${overId}: its recording is not what was sent`);
    if (!(await isMeasured(station, measurementId))) lost.push(`over ${overId}: its measurement was never taken up again`);
  }
  for (const [id, name] of ledger.cards) {
    const card = await (await fetch(`${station.address}/api/cards/${id}`)).json();
    if (card.name !== name) lost.push(`card ${id} is not there`);
  }
  return lost;
}

async function isMeasured(station, measurementId) {
  for (const end = Date.now() + 60_000; Date.now() < end; await wait(200)) {
    const { status } = await (await fetch(`${station.address}/api/measurements/${measurementId}`)).json();
    if (status === 'done') return true;
    if (status === 'failed') return false;
  }
  return false;
}

/** Waits until an over and a card were acknowledged: on a slow machine every kill could come before. @throws Error when none is within two minutes */
async function atWork({ overs, cards }) {
  for (const end = Date.now() + 120_000; Date.now() < end; await wait(100)) if (overs.size > 0 && cards.size > 0) return;
  throw new Error('nothing was acknowledged at all');
}

/** Kills during the very first start of a station, which must come up at the next one. */
async function killedFirstStart(random, tell) {
  const station = await Station.make();
  try {
    const child = station.launch();
    await wait(200 + 12_000 * random());
    child.kill('SIGKILL');
    await child.ended;
    tell(`first start killed after: ${station.said.trim().split('\n').at(-1) || 'nothing said'}`);
    station.launch();
    await station.up();
  } finally {
    await station.stop();
  }
}

const KINDS = ['database', 'server', 'start'];

/** @returns what went wrong, a sentence each */
export async function chaos({ kills, seed = 1, firstStarts = Math.ceil(kills / 8), tell = console.log }) {
  await build();
  const random = seeded(seed);
  for (let i = 0; i < firstStarts; i++) await killedFirstStart(random, tell);
  const station = await Station.make();
  const ledger = new Ledger();
  let isOver = false;
  let wrong = [];
  try {
    station.launch();
    await station.up();
    const clients = Array.from({ length: CLIENTS }, (_, i) => client(station, ledger, seeded(seed * 1000 + i), () => isOver));
    await atWork(ledger);
    const done = Object.fromEntries(KINDS.map((kind) => [kind, 0]));
    for (let killed = 0; killed < kills; ) {
      await wait(100 + 2400 * random());
      // Most kills hit a station that works; some hit one that is coming up.
      if (random() < 0.7) await station.up();
      const kind = KINDS[Math.floor(random() * KINDS.length)];
      if (!station.kill(kind)) continue;
      killed++;
      done[kind]++;
      if (kind !== 'start') continue;
      await station.start.ended;
      station.launch();
    }
    isOver = true;
    await Promise.all(clients);
    await station.up();
    tell(
      `kills: ${KINDS.map((kind) => `${done[kind]} ${kind}`).join(', ')}; ${ledger.told.kept} changes acknowledged, ${ledger.told.broken} broken off`,
    );
    wrong = await missing(station, ledger);
  } catch (error) {
    wrong.push(error.message);
  } finally {
    isOver = true;
    const left = await station.stop();
    if (left.length > 0) wrong.push(`${left.length} processes stayed behind`);
  }
  return wrong;
}

if (import.meta.url === pathToFileURL(process.argv[1]).href) {
  const [kills = 40, seed = Math.floor(Math.random() * 1e6)] = process.argv.slice(2).map(Number);
  console.log(`${kills} kills, seed ${seed}`);
  const wrong = await chaos({ kills, seed });
  for (const sentence of wrong) console.error(sentence);
  console.log(wrong.length === 0 ? 'Nothing was lost, nothing stayed down.' : `${wrong.length} things went wrong.`);
  process.exitCode = wrong.length === 0 ? 0 : 1;
}
