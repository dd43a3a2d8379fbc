/** Turns what the server does, or refuses to do, into an answer for the page: one wrapper for every request and action. */
import { FormatError, InvalidInput, type Problem } from '@/core/schema/index.ts';
import { type Failure, failureOf } from './failure.ts';
import { Refused } from './refused.ts';

export type Answer<T> = { readonly ok: true; readonly value: T } | Refusal;
export interface Refusal {
  readonly ok: false;
  readonly message: string;
  readonly link?: string;
  readonly status: number;
  /** What is wrong where, when a file was refused. */
  readonly problems?: readonly Problem[];
}

/** What each failure is called when something was to be changed. */
const WORDS: Record<Failure, { readonly status: number; readonly message: string }> = {
  'database-away': { status: 503, message: 'The database did not answer. Nothing was changed; please try again.' },
  conflict: { status: 409, message: 'Somebody else changed the same thing at the same moment. Nothing was changed; please try again.' },
  'disk-full': { status: 507, message: 'The disk is full. Nothing was changed; make room, then try again.' },
  'broken-off': { status: 499, message: 'The transfer was broken off. Nothing was changed.' },
  unknown: { status: 500, message: 'Something went wrong on the server. Nothing was changed.' },
};

/** Runs work; expected refusals become their one sentence, anything else is logged and told plainly. */
export async function answer<T>(work: () => Promise<T>): Promise<Answer<T>> {
  try {
    return { ok: true, value: await work() };
  } catch (error) {
    if (error instanceof Refused) return { ok: false, message: error.message, link: error.link, status: error.status };
    if (error instanceof InvalidInput) return { ok: false, message: error.message, status: 422, problems: error.problems };
    if (error instanceof FormatError) return { ok: false, message: error.message, status: 422 };
    const failure = failureOf(error);
    if (failure === 'unknown') console.error(error);
    else if (failure !== 'conflict' && failure !== 'broken-off') console.error(`${failure}: ${(error as Error).message}`);
    return { ok: false, ...WORDS[failure] };
  }
}

/** The same as an HTTP response. */
export const respond = <T>(result: Answer<T>): Response =>
  result.ok ? Response.json(result.value) : Response.json({ message: result.message, link: result.link }, { status: result.status });

/** A request whose work makes its own response. */
export async function handle(work: () => Promise<Response>): Promise<Response> {
  const result = await answer(work);
  return result.ok ? result.value : respond(result);
}

/**
 * Loads what a page shows. A failure goes on to the error page, which reads from its digest what it was.
 * @throws what `work` threw
 */
export async function load<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    // The framework's own signals, as "not found", have digests already.
    if (error instanceof Error && !('digest' in error)) Object.assign(error, { digest: failureOf(error) });
    throw error;
  }
}
