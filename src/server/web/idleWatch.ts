/** Ends transfers that stand still: a stalled client must not hold a connection, a file or a worker for ever. */
import type { IncomingMessage, ServerResponse } from 'node:http';

/** So long may a transfer stand still, in seconds, unless told otherwise. */
export const IDLE_S = 60;

/**
 * Watches one exchange. The time in which the server itself works does not count: only a body that does not come, or
 * an answer that is not taken.
 */
export function watchIdle(request: IncomingMessage, response: ServerResponse, idleS: number): void {
  const { socket } = request;
  let seen = -1;
  let since = Date.now();
  const look = () => {
    const isComing = !request.complete && !response.headersSent;
    const isGoing = response.headersSent && socket.writableLength > 0;
    const moved = socket.bytesRead + socket.bytesWritten - socket.writableLength;
    if (moved !== seen || !(isComing || isGoing)) {
      seen = moved;
      since = Date.now();
    } else if (Date.now() - since > idleS * 1000) {
      socket.destroy();
    }
  };
  const timer = setInterval(look, Math.min(5000, idleS * 250));
  timer.unref();
  response.once('close', () => clearInterval(timer));
}
