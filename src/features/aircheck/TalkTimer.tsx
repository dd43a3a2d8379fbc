'use client';
/** How long one has been talking: the listener wants 10 to 15 seconds. */
import { useEffect, useState } from 'react';
import { Button } from '@/ui/parts/Button.tsx';

const ENOUGH_S = 15;

export function TalkTimer() {
  const [startedAt, setStartedAt] = useState<number | null>(null);
  const [seconds, setSeconds] = useState(0);
  useEffect(() => {
    if (startedAt === null) return;
    const timer = setInterval(() => setSeconds(Math.floor((performance.now() - startedAt) / 1000)), 250);
    return () => clearInterval(timer);
  }, [startedAt]);
  const toggle = () => {
    setSeconds(0);
    setStartedAt(startedAt === null ? performance.now() : null);
  };
  return (
    <>
      <small>Talk {ENOUGH_S} s, about anything</small>
      <Button onPress={toggle} style={{ minHeight: 28, padding: '1px 10px' }}>
        {startedAt === null ? 'Start' : 'Stop'}
      </Button>{' '}
      <b className="mono" role="timer">
        {seconds} s
      </b>{' '}
      <span className="soft">{startedAt !== null && seconds >= ENOUGH_S ? 'enough: ask' : ''}</span>
    </>
  );
}
