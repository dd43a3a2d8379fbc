/** The web server: the door and its headers in front of everything, then Next.js. Started by bin/lib/app.mjs. */
import { randomBytes } from 'node:crypto';
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import next from 'next';
import { hostsOf, refusalAtDoor } from './door.ts';
import { tellFileLength } from './fileLength.ts';
import { IDLE_S, watchIdle } from './idleWatch.ts';
import { securityHeaders } from './securityHeaders.ts';

const port = Number(process.env.PORT);
const doors = { port, hosts: hostsOf(process.env.DIALTUNE_HOSTS) };
const idleS = Number(process.env.DIALTUNE_IDLE_SECONDS) || IDLE_S;

const app = next({ dev: false, dir: process.cwd(), hostname: '127.0.0.1', port });

function refuse(response: ServerResponse, status: number, message: string): void {
  response.writeHead(status, { 'content-type': 'application/json', connection: 'close' });
  response.end(`${JSON.stringify({ message })}\n`);
}

async function serve(request: IncomingMessage, response: ServerResponse): Promise<void> {
  const { method = '', url = '' } = request;
  const nonce = randomBytes(16).toString('base64');
  const headers = securityHeaders(url, nonce);
  for (const [name, value] of Object.entries(headers)) response.setHeader(name, value);
  const refusal = refusalAtDoor({ method, url, headers: request.headers }, doors);
  if (refusal) return refuse(response, refusal.status, refusal.message);
  watchIdle(request, response, idleS);
  tellFileLength(response);
  // Next.js takes the nonce for its own scripts from here; whatever the client sent under these names is gone.
  request.headers['content-security-policy'] = headers['content-security-policy'];
  request.headers['x-nonce'] = nonce;
  await app.getRequestHandler()(request, response);
}

await app.prepare();
const server = createServer((request, response) => {
  serve(request, response).catch((error) => {
    console.error(error);
    if (response.headersSent) response.destroy();
    else refuse(response, 500, 'Something went wrong on the server. What was saved before is kept.');
  });
});
// Long uploads are let go on as long as they move: idleWatch ends those that don't.
server.requestTimeout = 0;
server.headersTimeout = 15_000;
server.on('clientError', (_, socket) => {
  if (socket.writable) socket.end('HTTP/1.1 400 Bad Request\r\nconnection: close\r\n\r\n');
});

function stop(): void {
  server.close(() => process.exit(0));
  server.closeIdleConnections();
  setTimeout(() => process.exit(0), 4000).unref();
}
process.on('SIGTERM', stop);
process.on('SIGINT', stop);
// Whoever started this is gone: nothing may stay behind and keep the port.
process.on('disconnect', stop);

server.once('error', (error: NodeJS.ErrnoException) => {
  console.error(error.code === 'EADDRINUSE' ? `Port ${port} on 127.0.0.1 is taken by another program.` : error.message);
  process.exit(1);
});
server.listen(port, '127.0.0.1');
