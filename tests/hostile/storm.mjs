/**
 * npm run storm [-- SECONDS]: many clients at once, twelve exports, stalled uploads and downloads. Pages must go on
 * answering, transfers that stand still must end, and nothing may be refused that is not told why.
 */
import { connect } from 'node:net';
import { pathToFileURL } from 'node:url';
import { build } from '../../bin/lib/build.mjs';
import { recording, Station, seeded } from './station.mjs';

const IDLE_S = 3;
const EXPORTS = 12;
const STALLED = 12;
/** However busy, a page comes within this time; a blocked one never would. */
const PATIENCE_MS = 30_000;

/** A connection that sends these lines and then no more; it reads what comes, or not even that. @returns how long it stood, s */
function stalled(port, head, isReading) {
  return new Promise((resolve) => {
    const start = Date.now();
    const socket = connect(port, '127.0.0.1', () => socket.write(head));
    if (isReading) socket.resume();
    else socket.pause();
    socket.on('error', () => {});
    socket.once('close', () => resolve((Date.now() - start) / 1000));
    // Only what the server ends counts.
    setTimeout(() => socket.destroy(), 12_000 + 1000 * IDLE_S).unref();
  });
}

const headOf = (port, lines) => `${[lines[0], `host: 127.0.0.1:${port}`, ...lines.slice(1)].join('\r\n')}\r\n\r\n`;

/** @returns what went wrong, a sentence each */
export async function storm({ seconds = 20, tell = console.log } = {}) {
  await build();
  const station = await Station.make({ env: { DIALTUNE_IDLE_SECONDS: String(IDLE_S) } });
  const { port, address } = station;
  const wrong = [];
  const count = {};
  try {
    station.launch();
    await station.up();
    const random = seeded(7);
    const facts = encodeURIComponent(
      JSON.stringify({ cardRevisionId: 1, receiverId: 1, load: 'dummy load', fileName: 'x.wav', sha256: 'a'.repeat(64) }),
    );
    const uploads = Array.from({ length: STALLED }, () =>
      stalled(
        port,
        `${headOf(port, ['POST /api/captures HTTP/1.1', `x-dialtune-capture: ${facts}`, 'content-length: 5000000'])}RIFF`,
        true,
      ),
    );
    const imports = Array.from({ length: 4 }, () =>
      stalled(port, `${headOf(port, ['POST /api/station HTTP/1.1', 'x-dialtune-import: replace', 'content-length: 5000000'])}PK`, true),
    );
    const downloads = Array.from({ length: STALLED }, () => stalled(port, headOf(port, ['GET /api/station HTTP/1.1']), false));
    const exports_ = Array.from({ length: EXPORTS }, async () => {
      const response = await fetch(`${address}/api/station`);
      const { byteLength } = await response.arrayBuffer();
      return response.status === 200 && byteLength === Number(response.headers.get('content-length')) && byteLength > 1e6;
    });
    const end = Date.now() + 1000 * seconds;
    const pages = ['/overs', '/bench', '/cards', '/station', '/api/overs.csv', '/api/health', '/overs?search=net', '/cards/1'];
    let slowest = 0;
    const visitors = Array.from({ length: 8 }, async (_, i) => {
      for (let at = i; Date.now() < end; at++) {
        const path = pages[at % pages.length];
        const start = Date.now();
        const response = await fetch(address + path, { signal: AbortSignal.timeout(PATIENCE_MS) }).catch((error) => ({
          status: error.name,
        }));
        if (response.status === 200) await response.arrayBuffer();
        else wrong.push(`${path}: ${response.status}`);
        slowest = Math.max(slowest, Date.now() - start);
        count[path] = (count[path] ?? 0) + 1;
      }
    });
    const senders = Array.from({ length: 4 }, async () => {
      while (Date.now() < end)
        await station.upload(recording(random), { cardRevisionId: 1, receiverId: 1 }).catch((error) => wrong.push(error.message));
    });
    const practice = Array.from({ length: 20 }, async () => {
      const body = JSON.stringify({ cardId: 1, values: {}, radio: 1, receiver: 0, isIq: false, load: 'dummy load' });
      const response = await fetch(`${address}/api/practice`, { method: 'POST', headers: { 'content-type': 'application/json' }, body });
      return response.status;
    });
    const whole = await Promise.all(exports_);
    if (whole.includes(false)) wrong.push(`${whole.filter((isWhole) => !isWhole).length} of ${EXPORTS} exports were not whole`);
    await Promise.all([...visitors, ...senders]);
    const statuses = await Promise.all(practice);
    if (statuses.some((status) => ![200, 503].includes(status))) wrong.push(`practice answered ${[...new Set(statuses)]}`);
    if (!statuses.includes(200) || !statuses.includes(503))
      wrong.push(`the line of the practice radio has no end: ${[...new Set(statuses)]}`);
    const kept = [...(await Promise.all(uploads)), ...(await Promise.all(imports))];
    if (Math.max(...kept) > 10 + IDLE_S) wrong.push(`a stalled upload was kept for ${Math.max(...kept).toFixed(0)} s`);
    await Promise.all(downloads);
    const start = Date.now();
    if ((await station.status('/overs')) !== 200) wrong.push('after the storm the log does not answer');
    tell(
      `${Object.values(count).reduce((sum, n) => sum + n, 0)} pages, the slowest in ${(slowest / 1000).toFixed(1)} s; after it one in ${Date.now() - start} ms`,
    );
  } catch (error) {
    wrong.push(error.message);
  } finally {
    const left = await station.stop();
    if (left.length > 0) wrong.push(`${left.length} processes stayed behind`);
    if (/Error|failed/.test(station.said)) wrong.push(`the server said: ${station.said.slice(-1500)}`);
  }
  return wrong;
}

if (import.meta.url === pathToFileURL(process.argv[1]).href) {
  const wrong = await storm({ seconds: Number(process.argv[2] ?? 20) });
  for (const sentence of [...new Set(wrong)].slice(0, 20)) console.error(sentence);
  console.log(wrong.length === 0 ? 'Nothing blocked, nothing broke.' : `${wrong.length} things went wrong.`);
  process.exitCode = wrong.length === 0 ? 0 : 1;
}
