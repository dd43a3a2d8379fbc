/** POST: one over of a practice radio as a WAV file; its meters stand in a header. */
import { readJson } from '@/core/schema/index.ts';
import { transmitPractice } from '@/server/practice/practice.ts';
import { handle } from '@/server/requests/answer.ts';
import { Refused } from '@/server/requests/refused.ts';
import { readRequest } from '@/server/requests/requests.ts';

export const POST = (request: Request): Promise<Response> =>
  handle(async () => {
    if (!/^application\/json\b/.test(request.headers.get('content-type') ?? '')) throw new Refused('The request is not JSON.', 415);
    const text = await request.text();
    const { wav, fileName, meters } = await transmitPractice(readRequest('practice', readJson(text)));
    return new Response(wav, {
      headers: {
        'content-type': 'audio/wav',
        'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(fileName)}`,
        'x-dialtune-meters': JSON.stringify(meters),
      },
    });
  });
