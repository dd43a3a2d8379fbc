'use client';
/** Two to four overs side by side: were they driven alike, what differs, how they look and sound. */
import Link from 'next/link';
import { useMemo } from 'react';
import styled from 'styled-components';
import { KIND_NAMES, sameDrive } from '@/core/measure/index.ts';
import type { OverView } from '@/server/overs/overView.ts';
import { ButtonLink } from '@/ui/parts/Button.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import { StateMark } from '@/ui/parts/StateMark.tsx';
import { Page, Shell } from '@/ui/shell/Shell.tsx';
import { utc } from '@/ui/utc.ts';
import { Differences } from './Differences.tsx';
import { Listening } from './Listening.tsx';
import { type Lettered, lettered } from './letters.ts';
import { Overlays } from './Overlays.tsx';
import { Spectrograms } from './Spectrograms.tsx';

const Heads = styled.ul`
  display: grid; grid-template-columns: repeat(auto-fit, minmax(220px, 1fr)); gap: 16px; list-style: none; margin: 8px 0 12px; padding: 0;
  li { border-top: 2px solid var(--ink); padding-top: 6px; }
  .letter { font-weight: 700; font-size: 18px; margin-right: 8px; }`;
const Part = styled.section`margin: 20px 0 0;`;

/** Overs, or one over as several receivers heard it. */
function titleOf(items: readonly Lettered[]): string {
  const ids = [...new Set(items.map(({ over }) => over.id))];
  return ids.length === 1 ? `Over ${ids[0]} on ${items.length} receivers` : `Overs ${ids.join(', ')}`;
}

export function Compare({ overs }: { overs: readonly OverView[] }) {
  const items = useMemo(() => lettered(overs), [overs]);
  const drive = useMemo(() => sameDrive(items.map(({ letter, over }) => ({ name: letter, measurement: over.evidence.result }))), [items]);
  if (items.length < 2) {
    return (
      <Shell>
        <Page>
          <h1>Compare overs</h1>
          <p>
            Pick two to four measured overs on the Overs page: the same words bare, with the equalizer, with the compressor; or a radio
            against another.
          </p>
          <ButtonLink href="/overs" $primary>
            Pick overs
          </ButtonLink>
        </Page>
      </Shell>
    );
  }
  const isUnlike = new Set(items.map(({ over }) => over.evidence.result.kind)).size > 1;
  return (
    <Shell>
      <Page>
        <h1>{titleOf(items)} side by side</h1>
        <Heads>
          {items.map(({ letter, over }) => (
            <li key={over.capture.id}>
              <span className="letter">{letter}</span>
              <Link href={`/overs/${over.id}`}>over {over.id}</Link>, {utc(over.madeAt)} UTC
              <div>
                {over.operator.name}, {over.card.name} rev. {over.revision.number}
              </div>
              <div className="soft">
                {over.rig.name}, heard on {over.receiver.name}; {KIND_NAMES[over.evidence.result.kind]}
              </div>
              {over.note && <div className="soft">“{over.note}”</div>}
            </li>
          ))}
        </Heads>
        {isUnlike && <Notice>These are different kinds of evidence: only what they have in common can be compared.</Notice>}
        {drive && (
          <p>
            <StateMark state={drive.isFair ? 'ok' : 'watch'} /> {drive.text}
          </p>
        )}
        <Part>
          <h2>Spectra</h2>
          <Overlays items={items} />
        </Part>
        <Part>
          <h2>Listen</h2>
          <Listening items={items} />
        </Part>
        <Part>
          <h2>Numbers</h2>
          <Differences items={items} />
        </Part>
        <Part>
          <h2>Spectrograms</h2>
          <Spectrograms items={items} />
        </Part>
      </Page>
    </Shell>
  );
}
