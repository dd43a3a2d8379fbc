/** Saves a corrected rig profile over the one that the correction was made from. */
import type { RigProfile } from '@/core/rig/index.ts';
import { saveRig } from '@/server/station/actions.ts';
import { asked } from './asked.ts';

/** @returns why it was refused, or null */
export async function correctRig(id: number, from: RigProfile, to: RigProfile): Promise<string | null> {
  const answer = await asked(saveRig({ id, text: JSON.stringify(to), base: JSON.stringify(from) }));
  return answer.ok ? null : answer.message;
}
