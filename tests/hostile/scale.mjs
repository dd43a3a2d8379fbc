/**
 * npm run scale: times every list, search, far page and the Bench with the demo alone and with 10,000 overs and 1,000
 * cards beside it. Prints a table; exit code 1 when one takes more than twice as long.
 */
import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { build } from '../../bin/lib/build.mjs';
import { Station } from './station.mjs';

const CARDS = 1000;
const OVERS = 10_000;
const ROUNDS = 15;

/** Copies of the demo's rows, in the database itself; statistics are left as they are, old. */
const FILL = `
SET @card = (SELECT MAX(id) FROM cards), @revision = (SELECT MAX(id) FROM card_revisions), @over = (SELECT MAX(id) FROM overs),
  @capture = (SELECT MAX(id) FROM captures), @cards = (SELECT COUNT(*) FROM cards), @overs = (SELECT COUNT(*) FROM overs);
CREATE TEMPORARY TABLE old_cards AS SELECT ROW_NUMBER() OVER (ORDER BY id) - 1 AS place, cards.* FROM cards;
CREATE TEMPORARY TABLE newest AS SELECT r.* FROM card_revisions r WHERE r.number = (SELECT MAX(x.number) FROM card_revisions x WHERE x.card_id = r.card_id);
CREATE TEMPORARY TABLE heard AS SELECT ROW_NUMBER() OVER (ORDER BY m.id) - 1 AS place, m.*, k.kind, k.bytes, o.receiver_id FROM measurements m
  JOIN captures k ON k.id = m.capture_id JOIN overs o ON o.id = k.over_id WHERE k.kind = 'voice' AND m.status = 'done';
SET @heard = (SELECT COUNT(*) FROM heard);
INSERT INTO cards (id, name, operator_id, rig_id, microphone_id, mode, purpose, created_at, changed_at)
  SELECT @card + n.seq, CONCAT(c.name, ' ', n.seq), c.operator_id, c.rig_id, c.microphone_id, c.mode, c.purpose, c.created_at,
    c.changed_at - INTERVAL n.seq MINUTE FROM seq_1_to_${CARDS} n JOIN old_cards c ON c.place = MOD(n.seq, @cards);
INSERT INTO card_revisions (id, card_id, number, dial_values, reason, microphone_use, made_by, created_at)
  SELECT @revision + n.seq, @card + n.seq, 1, r.dial_values, r.reason, r.microphone_use, r.made_by, r.created_at
  FROM seq_1_to_${CARDS} n JOIN old_cards c ON c.place = MOD(n.seq, @cards) JOIN newest r ON r.card_id = c.id;
INSERT INTO overs (id, card_revision_id, receiver_id, \`load\`, note, created_at)
  SELECT @over + n.seq, @revision + 1 + MOD(n.seq, ${CARDS}), h.receiver_id, 'dummy load', CONCAT('note ', n.seq), NOW(3) - INTERVAL n.seq MINUTE
  FROM seq_1_to_${OVERS} n JOIN heard h ON h.place = MOD(n.seq, @heard);
INSERT INTO captures (id, over_id, file_name, bytes, sha256, kind, settings, created_at)
  SELECT @capture + n.seq, @over + n.seq, 'copy.wav', h.bytes, SHA2(CONCAT('copy ', n.seq), 256), 'voice', '{}', NOW(3)
  FROM seq_1_to_${OVERS} n JOIN heard h ON h.place = MOD(n.seq, @heard);
INSERT INTO measurements (capture_id, status, core_version, result, detail, error, headline, duration_s, findings, created_at)
  SELECT @capture + n.seq, 'done', h.core_version, h.result, h.detail, NULL, h.headline, h.duration_s, h.findings, NOW(3)
  FROM seq_1_to_${OVERS} n JOIN heard h ON h.place = MOD(n.seq, @heard);`;

function fill(station) {
  const folder = join(station.folder, 'mariadb');
  const password = readFileSync(join(folder, 'password'), 'utf8').trim();
  const args = ['--no-defaults', `--socket=${join(folder, 'data', 'mariadbd.sock')}`, '-uroot', 'dialtune'];
  const { status, stderr } = spawnSync('mariadb', args, { input: FILL, encoding: 'utf8', env: { ...process.env, MYSQL_PWD: password } });
  if (status !== 0) throw new Error(stderr);
}

/** Pages, and what the demo's page is compared with where the big station has one of its own. */
const PAGES = [
  ['/overs'],
  ['/overs?search=second'],
  ['/overs?page=1', '/overs?page=400'],
  ['/overs?search=nothing%20of%20it'],
  ['/overs/1', '/overs/9000'],
  ['/cards'],
  ['/cards?page=1', '/cards?page=40'],
  ['/cards?search=net'],
  ['/cards/1', '/cards/900'],
  ['/bench'],
  ['/bench?card=1', '/bench?card=900'],
  ['/cards/reach?card=1'],
  ['/practice?card=1'],
  ['/station'],
  ['/cards/1/copy'],
];

const median = (times) => times.sort((a, b) => a - b)[Math.floor(times.length / 2)];

async function timeOf(station, path) {
  const start = performance.now();
  const response = await fetch(station.address + path);
  await response.text();
  if (response.status !== 200) throw new Error(`${path}: ${response.status}`);
  return performance.now() - start;
}

/** Medians of all pages, in turn, so that a noisy moment hits all alike. */
async function times(station, paths) {
  const all = new Map(paths.map((path) => [path, []]));
  for (let round = -2; round < ROUNDS; round++) {
    for (const path of all.keys()) {
      const ms = await timeOf(station, path);
      if (round >= 0) all.get(path).push(ms);
    }
  }
  return paths.map((path) => median(all.get(path)));
}

export async function scale(tell = console.log) {
  await build();
  const station = await Station.make();
  const slow = [];
  try {
    station.launch();
    await station.up();
    const small = await times(
      station,
      PAGES.map(([path]) => path),
    );
    const lines = (await (await fetch(`${station.address}/api/overs.csv`)).text()).split('\n').length;
    const shortMs = median(await Promise.all(Array.from({ length: 5 }, () => timeOf(station, '/api/overs.csv'))));
    fill(station);
    const large = await times(
      station,
      PAGES.map(([path, far = path]) => far),
    );
    PAGES.forEach(([path, far = path], i) => {
      const ratio = large[i] / small[i];
      tell(`${far.padEnd(34)} ${small[i].toFixed(0).padStart(5)} ms ${large[i].toFixed(0).padStart(6)} ms  ${ratio.toFixed(2)}`);
      if (ratio > 2) slow.push(`${path} takes ${ratio.toFixed(1)} times as long`);
    });
    const longMs = await timeOf(station, '/api/overs.csv');
    tell(`overs.csv: ${lines} lines in ${shortMs.toFixed(0)} ms, ${lines + OVERS} in ${longMs.toFixed(0)} ms`);
    if (longMs / shortMs > (lines + OVERS) / lines) slow.push('overs.csv takes more than its length');
  } finally {
    await station.stop();
  }
  return slow;
}

if (import.meta.url === pathToFileURL(process.argv[1]).href) {
  const slow = await scale();
  for (const sentence of slow) console.error(sentence);
  process.exitCode = slow.length === 0 ? 0 : 1;
}
