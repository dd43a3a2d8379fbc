/** Asking the server: a server that is away is an answer too, told in one sentence. */
import type { Answer, Refusal } from '@/server/requests/answer.ts';

const AWAY: Refusal = { ok: false, status: 0, message: 'The server did not answer. What you typed is still here; please try again.' };

/** An action's answer. Never rejects: a connection that broke off is a refusal. */
export const asked = <T>(answer: Promise<Answer<T>>): Promise<Answer<T>> => answer.catch(() => AWAY);
