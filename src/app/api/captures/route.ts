/** POST: takes in one recording as a stream; the answer comes when it is committed and its checksum matches. */
import { answer, respond } from '@/server/answer.ts';
import { measuringPool } from '@/server/measuringPool.ts';
import { Refused } from '@/server/refused.ts';
import { readRequest } from '@/server/requests.ts';
import { MOST_BYTES, storeCapture } from '@/server/storeCapture.ts';

export const dynamic = 'force-dynamic';

/** Header with the over's facts as URI-encoded JSON; a page of another origin can't send it. */
const FACTS = 'x-dialtune-capture';

export async function POST(request: Request): Promise<Response> {
  return respond(
    await answer(async () => {
      if (Number(request.headers.get('content-length') ?? 0) > MOST_BYTES) {
        throw new Refused('The file is larger than 1 GiB. Nothing was stored.', 413);
      }
      const incoming = readRequest('capture', factsOf(request.headers.get(FACTS)));
      if (!request.body) throw new Refused('The file is empty (0 bytes). Nothing was stored.', 422);
      const stored = await storeCapture({ powerW: null, alcReading: null, ...incoming }, request.body);
      measuringPool().add(stored);
      return stored;
    }),
  );
}

function factsOf(header: string | null): unknown {
  if (header === null) throw new Refused(`The header ${FACTS} is missing. Nothing was stored.`);
  try {
    return JSON.parse(decodeURIComponent(header));
  } catch {
    throw new Refused(`The header ${FACTS} can't be read. Nothing was stored.`);
  }
}
