/** Lets a download say how long it is: Next.js drops Content-Length from what a route answers. */
import type { ServerResponse } from 'node:http';

/** What routes set in its place. */
export const FILE_LENGTH = 'x-file-length';

export function tellFileLength(response: ServerResponse): void {
  const writeHead = response.writeHead;
  response.writeHead = ((...args: Parameters<typeof writeHead>) => {
    const length = response.getHeader(FILE_LENGTH);
    if (length !== undefined) {
      response.removeHeader(FILE_LENGTH);
      response.setHeader('content-length', length);
    }
    return writeHead.apply(response, args);
  }) as typeof writeHead;
}
