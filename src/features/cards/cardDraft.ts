/** What a new card begins with: nothing, another card's numbers, or a card file's. */
import { type DialValues, type MicrophoneUse, type Mode, type Purpose, parseCard } from '@/core/rig/index.ts';
import { FormatError, InvalidInput, readJson } from '@/core/schema/index.ts';
import type { Station } from '@/server/station/station.ts';

export interface CardDraft {
  readonly name?: string;
  readonly operatorId?: number;
  readonly rigId?: number;
  readonly microphoneId?: number;
  readonly mode?: Mode;
  readonly purpose?: Purpose;
  /** Numbers that are given; the rig is then fixed. */
  readonly values?: DialValues;
  readonly use?: MicrophoneUse;
  /** Where the numbers come from, in a few words. */
  readonly reason?: string;
}

/** Reads a card file against the rig that it names. */
export function draftFromFile(text: string, { rigs, operators, microphones }: Station): CardDraft | { readonly problem: string } {
  try {
    const input = readJson(text);
    const named = (input as { rig?: unknown } | null)?.rig;
    const rig = rigs.find(({ name }) => name === named) ?? (named === undefined && rigs.length === 1 ? rigs[0] : undefined);
    if (!rig) return { problem: `The station has no rig named ${String(named ?? '(none given)').slice(0, 60)}. Add its profile first.` };
    const card = parseCard(input, rig.profile);
    const microphone = microphones.find(({ name }) => name === card.microphone);
    return {
      name: card.name,
      rigId: rig.id,
      operatorId: operators.find(({ callsign }) => callsign === card.operator)?.id,
      microphoneId: microphone?.id,
      mode: card.mode,
      purpose: card.purpose,
      values: card.values,
      use: microphone ? card.use : undefined,
      reason: 'from a card file',
    };
  } catch (error) {
    if (error instanceof FormatError || error instanceof InvalidInput) return { problem: error.message };
    throw error;
  }
}
