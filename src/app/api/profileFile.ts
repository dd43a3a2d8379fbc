/** A rig, microphone or card as a JSON file to keep. */
import { handle } from '@/server/requests/answer.ts';
import { Refused } from '@/server/requests/refused.ts';
import { idOf } from '../paging.ts';

export interface Asked {
  readonly params: Promise<{ id: string }>;
}

/** @param find gives its name and its value; null when there is none */
export const profileFile = (what: string, { params }: Asked, find: (id: number) => Promise<{ name: string; value: object } | null>) =>
  handle(async () => {
    const id = idOf((await params).id);
    const found = id === undefined ? null : await find(id);
    if (!found) throw new Refused(`There is no such ${what}.`, 404);
    return new Response(`${JSON.stringify(found.value, null, 1)}\n`, {
      headers: {
        'content-type': 'application/json',
        'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(`${found.name}.json`)}`,
      },
    });
  });
