'use client';
/** The test bench: what is worked out or played without an over. */
import styled from 'styled-components';
import { Page, Shell } from '@/ui/shell/Shell.tsx';
import { FmWidth } from './FmWidth.tsx';
import { Harmonics } from './Harmonics.tsx';
import { Pad } from './Pad.tsx';
import { Power } from './Power.tsx';
import { Signals } from './Signals.tsx';

const Columns = styled.div`
  display: grid; grid-template-columns: repeat(auto-fit, minmax(min(480px, 100%), 1fr)); gap: 22px 32px; margin-top: 10px; align-items: start;
  section { border-top: 2px solid var(--ink); padding-top: 8px; }`;

export function TestBench() {
  return (
    <Shell>
      <Page>
        <h1>Test bench</h1>
        <Columns>
          <Signals />
          <Power />
          <Pad />
          <Harmonics />
          <FmWidth />
        </Columns>
      </Page>
    </Shell>
  );
}
