/** GET ?card=...: the advice engine plays the practice radio of a card, and tells its overs. Minutes of work. */

import { enginePlays } from '@/server/practice/practice.ts';
import { handle } from '@/server/requests/answer.ts';
import { Refused } from '@/server/requests/refused.ts';

export const GET = (request: Request): Promise<Response> =>
  handle(async () => {
    const card = new URL(request.url).searchParams.get('card') ?? '';
    if (!/^\d{1,9}$/.test(card)) throw new Refused('Which card?');
    return Response.json({ overs: await enginePlays(Number(card)) });
  });
