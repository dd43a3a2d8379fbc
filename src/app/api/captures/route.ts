/**
 * GET ?sha256=...: whether a recording is here. POST: takes in one recording as a stream; the answer comes when it is
 * committed and its checksum matches.
 */
import type { HeadStart } from '@/server/measuring/headStart.ts';
import { howToMeasure, measuringPool } from '@/server/measuring/measuringPool.ts';
import { MOST_BYTES, overOfRecording, storeCapture } from '@/server/overs/storeCapture.ts';
import { answer, handle, respond } from '@/server/requests/answer.ts';
import { Refused } from '@/server/requests/refused.ts';
import { type RequestOf, readRequest } from '@/server/requests/requests.ts';

/** Header with the over's facts as URI-encoded JSON; a page of another origin can't send it. */
const FACTS = 'x-dialtune-capture';

export const GET = (request: Request): Promise<Response> =>
  handle(async () => {
    const sha256 = new URL(request.url).searchParams.get('sha256') ?? '';
    if (!/^[0-9a-f]{64}$/.test(sha256)) throw new Refused('A SHA-256 in lower-case hex is needed.');
    return Response.json({ overId: await overOfRecording(sha256) });
  });

export async function POST(request: Request): Promise<Response> {
  return respond(
    await answer(async () => {
      if (Number(request.headers.get('content-length') ?? 0) > MOST_BYTES) {
        throw new Refused('The file is larger than 1 GiB. Nothing was stored.', 413);
      }
      const incoming = readRequest('capture', factsOf(request.headers.get(FACTS)));
      if (!request.body) throw new Refused('The file is empty (0 bytes). Nothing was stored.', 422);
      const start = headStartOf(incoming, Number(request.headers.get('content-length') ?? 0));
      try {
        const stored = await storeCapture({ powerW: null, alcReading: null, ...incoming }, request.body, start?.arrived.bind(start));
        measuringPool().add(stored, start);
        return stored;
      } catch (error) {
        void start?.abandon();
        throw error;
      }
    }),
  );
}

/** Null where the measurement hangs on something else that is stored. */
function headStartOf({ kind, settings = {}, cardRevisionId }: RequestOf<'capture'>, bytes: number): HeadStart | null {
  const { referenceCaptureId, subtractCaptureId, subtractsMicrophone } = settings;
  if (!kind || kind === 'power' || referenceCaptureId || subtractCaptureId || subtractsMicrophone) return null;
  return measuringPool().headStart(bytes, () => howToMeasure(kind, settings, cardRevisionId));
}

function factsOf(header: string | null): unknown {
  if (header === null) throw new Refused(`The header ${FACTS} is missing. Nothing was stored.`);
  try {
    return JSON.parse(decodeURIComponent(header));
  } catch {
    throw new Refused(`The header ${FACTS} can't be read. Nothing was stored.`);
  }
}
