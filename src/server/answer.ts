/** Turns what the server does, or refuses to do, into an answer for the page. */
import { FormatError } from '../core/formats/formatError.ts';
import { InvalidInput, type Problem } from '../core/formats/problems.ts';
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

/** Runs work; expected refusals become their one sentence, anything else is logged and told plainly. */
export async function answer<T>(work: () => Promise<T>): Promise<Answer<T>> {
  try {
    return { ok: true, value: await work() };
  } catch (error) {
    if (error instanceof Refused) return { ok: false, message: error.message, link: error.link, status: error.status };
    if (error instanceof InvalidInput) return { ok: false, message: error.message, status: 422, problems: error.problems };
    if (error instanceof FormatError) return { ok: false, message: error.message, status: 422 };
    console.error(error);
    const isDatabase = error instanceof Error && /Connection|ConnectionRefused|SequelizeDatabase/.test(`${error.name} ${error.message}`);
    return {
      ok: false,
      message: isDatabase
        ? 'The database did not answer. Nothing was changed; please try again.'
        : 'Something went wrong on the server. Nothing was changed.',
      status: 500,
    };
  }
}

/** The same as an HTTP response. */
export const respond = <T>(result: Answer<T>): Response =>
  result.ok ? Response.json(result.value) : Response.json({ message: result.message, link: result.link }, { status: result.status });
