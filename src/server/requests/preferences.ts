/** What this browser has chosen, kept in cookies: who sits at the dials, the card being worked on, the unit of distances. */
import { cookies } from 'next/headers';
import { DISTANCE_UNITS, type DistanceUnit } from '@/core/units/index.ts';

const WHO = 'dialtune-who';
/** Set by the page itself (client/workingCard.ts). */
const CARD = 'dialtune-card';
const DISTANCE = 'dialtune-distance';
const KEPT_SECONDS = 400 * 86_400;

async function read(name: string): Promise<string> {
  try {
    return decodeURIComponent((await cookies()).get(name)?.value ?? '').slice(0, 80);
  } catch {
    // A cookie that somebody bent by hand says nothing.
    return '';
  }
}
const keep = async (name: string, value: string) =>
  void (await cookies()).set(name, encodeURIComponent(value), { maxAge: KEPT_SECONDS, sameSite: 'lax' });

/** Empty: the card's own operator. */
export const whoIsThere = (): Promise<string> => read(WHO);
export const keepWho = (by: string): Promise<void> => keep(WHO, by);

/** Undefined when none was worked on yet; it may be gone by now. */
export async function workingCard(): Promise<number | undefined> {
  const text = await read(CARD);
  return /^\d{1,9}$/.test(text) ? Number(text) : undefined;
}

export async function distanceUnit(): Promise<DistanceUnit> {
  const text = await read(DISTANCE);
  return DISTANCE_UNITS.find((unit) => unit === text) ?? 'cm';
}
export const keepDistanceUnit = (unit: DistanceUnit): Promise<void> => keep(DISTANCE, unit);
