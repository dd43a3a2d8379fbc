'use client';
/** What was measured of the voice on the over in view. */
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import styled from 'styled-components';
import { useAddRecording } from '@/client/addRecording.ts';
import { monitorWorth } from '@/core/advice/index.ts';
import type { BenchView } from '@/server/bench/bench.ts';
import { Bar, Button } from '@/ui/parts/Button.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';
import { utc } from '@/ui/utc.ts';
import { OverReport } from './OverReport.tsx';

export const Top = styled.div`display: flex; justify-content: space-between; align-items: start; gap: 16px; flex-wrap: wrap; margin-bottom: 8px; .sub { margin: 0; }`;

export function VoiceStage({ bench }: { bench: BenchView }) {
  const { card, over } = bench;
  const addRecording = useAddRecording();
  if (!over) {
    return (
      <>
        <h1>Voice</h1>
        <p>
          No over with this card yet. Record 15 seconds of talk on a second receiver or a remote one, then drop the file anywhere on this
          page.
        </p>
        <Bar>
          <Button primary onPress={() => addRecording(card.id)}>
            Add a recording
          </Button>
        </Bar>
      </>
    );
  }
  return (
    <>
      <Top>
        <div>
          <h1>Voice</h1>
          <p className="soft sub">
            <Link href={`/overs/${over.id}`}>Over {over.id}</Link>, {utc(over.madeAt)} UTC, on {over.receiver.name}, with revision{' '}
            {over.revision.number}.
          </p>
        </div>
        <OverPicker bench={bench} />
      </Top>
      <OverReport over={over} />
      <Monitor bench={bench} />
    </>
  );
}

/** What hearing oneself is worth; how to find out, where nothing is noted. */
function Monitor({ bench: { spreads, over } }: { bench: BenchView }) {
  const worth = monitorWorth(spreads);
  return (
    <section aria-label="Hearing yourself">
      <h2>Hearing yourself</h2>
      <p className={worth ? undefined : 'soft'}>
        {worth?.text ?? (
          <>
            The monitor on headphones keeps your level steady. Note with <Link href={`/overs/${over?.id}`}>an over</Link> whether it was on,
            and record one each way.
          </>
        )}
      </p>
    </section>
  );
}

/** Which over the card is measured from. */
export function OverPicker({ bench: { card, over, overs } }: { bench: BenchView }) {
  const router = useRouter();
  if (overs.length < 2) return null;
  return (
    <Picker
      label="Measured from"
      value={over ? String(over.id) : null}
      choices={overs.map(({ id, madeAt, receiver, revision }) => ({
        id: String(id),
        text: `over ${id}, rev. ${revision}`,
        note: `${utc(madeAt)} UTC, ${receiver}`,
      }))}
      onChange={(id) => {
        const stage = new URL(window.location.href).searchParams.get('stage');
        router.push(`/bench?card=${card.id}&over=${id}${stage ? `&stage=${stage}` : ''}`);
      }}
    />
  );
}
