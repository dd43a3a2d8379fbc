/** Two tabs at one thing: the later one is told, and nothing of either is lost. */
import { OVERTAKEN, Refused } from './refused.ts';

/**
 * Refuses a change that was made from values that are no longer the present ones.
 * @param what the thing, as people call it
 * @param now the present values
 * @param base values that the change was made from; unchecked when left out
 * @throws Refused (OVERTAKEN) naming what is different by now
 */
export function refuseOvertaken(what: string, now: object, base: object | undefined): void {
  if (!base) return;
  const present = now as Readonly<Record<string, unknown>>;
  const other = Object.entries(base).filter(([key, value]) => JSON.stringify(present[key] ?? null) !== JSON.stringify(value ?? null));
  if (other.length === 0) return;
  const first = other.map(([key]) => present[key]).find((value) => typeof value === 'string' && value !== '' && value.length <= 80);
  throw new Refused(
    `This ${what} was changed meanwhile in another tab${first === undefined ? '' : ` (now "${first}")`}. Nothing was saved; what you typed is still here.`,
    OVERTAKEN,
  );
}
