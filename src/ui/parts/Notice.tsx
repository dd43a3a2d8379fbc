'use client';
/** A short message in the page: what happened, what was kept, what to do. */
import type { ReactNode } from 'react';
import styled from 'styled-components';

const Box = styled.div<{ $tone: 'plain' | 'fault' }>`
  border-left: 3px solid ${({ $tone }) => ($tone === 'fault' ? 'var(--fault)' : 'var(--signal)')};
  background: var(--sheet); padding: 8px 12px; margin: 8px 0; display: flex; gap: 12px; align-items: center; flex-wrap: wrap;
`;

export function Notice({ tone = 'plain', children }: { tone?: 'plain' | 'fault'; children: ReactNode }) {
  return (
    <Box $tone={tone} role={tone === 'fault' ? 'alert' : 'status'}>
      {children}
    </Box>
  );
}
