'use client';
/** What the engine says at a step of a Tune run, worked out in the page's worker. */
import { useQuery } from '@tanstack/react-query';
import type { NextInput } from '@/core/advice/index.ts';
import type { Card } from '@/core/rig/index.ts';
import type { TuneMove } from '@/core/tune/index.ts';
import { coreWork } from './workers/coreWork.ts';

export type TuneMoveState =
  | { readonly kind: 'none' | 'working' }
  | { readonly kind: 'done'; readonly move: TuneMove }
  | { readonly kind: 'impossible'; readonly why: string };

/** @param key stands for the history: another one, and it is asked again */
export function useTuneMove(input: NextInput | null, card: Card, key: readonly unknown[]): TuneMoveState {
  const { data, error } = useQuery({
    queryKey: ['tune move', ...key, input?.school, input?.scope, input?.hasOwnLevel, card.values],
    enabled: input !== null,
    queryFn: () => {
      if (!input) throw new Error('this step turns nothing');
      return coreWork().tuneMove(input, card);
    },
  });
  if (!input) return { kind: 'none' };
  if (error) return { kind: 'impossible', why: `The next move could not be calculated: ${error.message}` };
  return data === undefined ? { kind: 'working' } : { kind: 'done', move: data };
}
