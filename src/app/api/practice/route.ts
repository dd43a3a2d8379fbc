/** POST: one over of a practice radio as a WAV file; its meters stand in a header. */
import { answer, respond } from '@/server/answer.ts';
import { transmitPractice } from '@/server/practice.ts';
import { Refused } from '@/server/refused.ts';
import { readRequest } from '@/server/requests.ts';

export const dynamic = 'force-dynamic';

export async function POST(request: Request): Promise<Response> {
  const result = await answer(async () => {
    const input = await request.json().catch(() => {
      throw new Refused('The request is not JSON.');
    });
    return transmitPractice(readRequest('practice', input));
  });
  if (!result.ok) return respond(result);
  const { wav, fileName, meters } = result.value;
  return new Response(wav, {
    headers: {
      'content-type': 'audio/wav',
      'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(fileName)}`,
      'x-dialtune-meters': JSON.stringify(meters),
      'x-content-type-options': 'nosniff',
    },
  });
}
