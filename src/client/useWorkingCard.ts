'use client';
/** Remembers the card that a page is about. */
import { useEffect } from 'react';
import { rememberCard } from './workingCard.ts';

export function useWorkingCard(cardId: number): void {
  useEffect(() => rememberCard(cardId), [cardId]);
}
