'use client';
/** Plays one recording in a loop, and stops it. */
import { Pause, Play as PlayMark } from 'lucide-react';
import { Button } from 'react-aria-components';
import styled from 'styled-components';
import { usePlay } from '@/client/usePlay.ts';

const Small = styled(Button)`
  display: inline-grid; place-items: center; width: 30px; height: 30px; border: 1px solid var(--line); border-radius: 50%; background: var(--sheet);
  color: var(--ink); cursor: pointer; flex: none;
  &[data-hovered] { background: var(--signal-wash); } &[aria-busy] { opacity: 0.6; }`;

/** @param label what is played, for those who don't see the mark */
export function Play({ captureId, label }: { captureId: number; label: string }) {
  const { state, error, toggle } = usePlay(captureId);
  return (
    <>
      <Small
        onPress={toggle}
        aria-label={`${state === 'silent' ? 'Play' : 'Stop'} ${label}`}
        aria-busy={state === 'rendering' || undefined}
      >
        {state === 'silent' ? <PlayMark size={14} aria-hidden /> : <Pause size={14} aria-hidden />}
      </Small>
      {error && (
        <span role="alert" className="soft">
          {error}
        </span>
      )}
    </>
  );
}
