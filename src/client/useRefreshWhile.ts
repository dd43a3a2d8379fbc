'use client';
/** Asks the server for the page again while something is under way there. */
import { useRouter } from 'next/navigation';
import { useEffect, useTransition } from 'react';

/**
 * Each question waits for the answer to the one before: on a slow machine they would pile up, and the page would show
 * none of them until the last is there. A hidden page asks nothing.
 */
export function useRefreshWhile(isWaiting: boolean, everyMs: number): void {
  const router = useRouter();
  const [isAsking, start] = useTransition();
  useEffect(() => {
    if (!isWaiting || isAsking) return;
    const timer = setInterval(() => {
      if (document.visibilityState === 'visible') start(() => router.refresh());
    }, everyMs);
    return () => clearInterval(timer);
  }, [isWaiting, isAsking, everyMs, router]);
}
