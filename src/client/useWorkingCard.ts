'use client';
/** Remembers the card that a page is about. */
import { useEffect } from 'react';
import { rememberCard } from './workingCard.ts';

/** @param cardId null: the page is about none that is worked on */
export function useWorkingCard(cardId: number | null): void {
  useEffect(() => {
    if (cardId !== null) rememberCard(cardId);
  }, [cardId]);
}
