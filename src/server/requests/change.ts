/** What every action of a page is: a request that passes its schema, a change, and the pages that show it made anew. */
import { revalidatePath } from 'next/cache';
import { type Answer, answer } from './answer.ts';
import { type RequestName, type RequestOf, readRequest } from './requests.ts';

/** @param page what shows the change; everything when left out, as a card is shown nearly everywhere */
export async function change<N extends RequestName, T>(
  kind: N,
  input: unknown,
  work: (request: RequestOf<N>) => Promise<T>,
  page?: string,
): Promise<Answer<T>> {
  const result = await answer(async () => work(readRequest(kind, input)));
  if (result.ok) {
    if (page === undefined) revalidatePath('/', 'layout');
    else revalidatePath(page, 'page');
  }
  return result;
}
