/** Who sits at the dials: chosen on the Station page, kept in a cookie; empty means the card's operator. */
import { cookies } from 'next/headers';

const NAME = 'dialtune-who';
const KEPT_SECONDS = 400 * 86_400;

export async function whoIsThere(): Promise<string> {
  try {
    return decodeURIComponent((await cookies()).get(NAME)?.value ?? '').slice(0, 80);
  } catch {
    // A cookie that somebody bent by hand says nothing.
    return '';
  }
}

export async function keepWho(by: string): Promise<void> {
  (await cookies()).set(NAME, encodeURIComponent(by), { maxAge: KEPT_SECONDS, sameSite: 'lax' });
}
