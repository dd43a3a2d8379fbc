'use client';
/** Plays one stored recording, demodulated where need be, at the common listening level; one at a time. */
import { useEffect, useRef, useState } from 'react';
import { playableCapture } from '@/server/overs/actions.ts';
import { asked } from './asked.ts';
import { Player } from './player.ts';
import { coreWork } from './workers/coreWork.ts';

/** So much is fetched and rendered. */
const LONGEST_S = 30;
let stopCurrent: (() => void) | null = null;

export function usePlay(captureId: number) {
  const [state, setState] = useState<'silent' | 'rendering' | 'playing'>('silent');
  const [error, setError] = useState<string | null>(null);
  const player = useRef<Player<'it'> | null>(null);
  const stop = () => {
    player.current?.stop();
    player.current = null;
    setState('silent');
  };
  useEffect(() => () => player.current?.stop(), []);
  const start = async () => {
    stopCurrent?.();
    stopCurrent = stop;
    setError(null);
    setState('rendering');
    // A sound card is let in by a press only: the player is made before anything is waited for.
    const made = new Player<'it'>('it');
    player.current = made;
    try {
      const answer = await asked(playableCapture({ captureId }));
      if (!answer.ok) throw new Error(answer.message);
      const { bytes, view } = answer.value;
      const it = await coreWork().listen(captureId, bytes, view, 0, LONGEST_S);
      if (player.current !== made) return made.stop();
      made.play({ it });
      setState('playing');
    } catch (problem) {
      if (player.current === made) stop();
      setError((problem as Error).message || 'This recording could not be played.');
    }
  };
  return { state, error, toggle: () => (state === 'silent' ? void start() : stop()) };
}
