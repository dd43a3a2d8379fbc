'use client';
/** One file on its way in. */
import Link from 'next/link';
import styled from 'styled-components';
import type { Incoming, UploadState } from '@/client/upload.ts';
import { Notice } from '@/ui/parts/Notice.tsx';
import { Progress } from '@/ui/parts/Progress.tsx';

const File_ = styled.li`display: grid; gap: 6px; padding: 10px 0; border-bottom: 1px solid var(--grid); list-style: none;
  .name { font-weight: 600; overflow-wrap: anywhere; }`;

const PHASES = { decoding: 'decoding', checking: 'calculating its checksum', sending: 'sending', measuring: 'measuring' } as const;

/** @param onLeave called when a link leads away from the sheet */
export function FileState({ recording, state, onLeave }: { recording: Incoming; state: UploadState; onLeave: () => void }) {
  return (
    <File_>
      <span className="name">{recording.name}</span>
      {state.phase === 'done' && (
        <span>
          Measured as{' '}
          <Link href={`/overs/${state.overId}`} onClick={onLeave}>
            over {state.overId}
          </Link>
          .
        </span>
      )}
      {state.phase === 'failed' && (
        <Notice tone="fault">
          <span>
            {state.message}{' '}
            {state.link && (
              <Link href={state.link} onClick={onLeave}>
                Show it
              </Link>
            )}
          </span>
        </Notice>
      )}
      {state.phase !== 'done' && state.phase !== 'failed' && <Progress label={PHASES[state.phase]} share={state.share} />}
    </File_>
  );
}
