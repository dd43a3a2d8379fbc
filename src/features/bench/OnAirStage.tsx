'use client';
/** What was measured of the transmitted signal itself: the newest I/Q over of the card. */
import Link from 'next/link';
import styled from 'styled-components';
import { useAddRecording } from '@/client/addRecording.ts';
import type { BenchView } from '@/server/bench/bench.ts';
import { Drive } from '@/ui/advisors/Drive.tsx';
import { Bar, Button } from '@/ui/parts/Button.tsx';
import { utc } from '@/ui/utc.ts';
import { OverReport } from './OverReport.tsx';

const Part = styled.section`margin-top: 18px;`;

export function OnAirStage({ bench }: { bench: BenchView }) {
  const { card, radio } = bench;
  const addRecording = useAddRecording();
  const isOld = radio !== null && radio.revision.id !== card.revisions[0].id;
  return (
    <Part>
      <h2>The signal itself</h2>
      {radio ? (
        <>
          <p className="soft">
            <Link href={`/overs/${radio.id}`}>Over {radio.id}</Link>, {utc(radio.madeAt)} UTC, on {radio.receiver.name}, with revision{' '}
            {radio.revision.number}
            {isOld ? ': the card has changed since' : ''}.
          </p>
          <OverReport over={radio} />
        </>
      ) : (
        <p>
          Not measured yet: splatter, opposite sideband, carrier, modulation depth and deviation need a wide I/Q recording of the signal,
          from a second receiver with its own small antenna (stereo WAV or SigMF). The next channel alone can be read off an analyser and
          noted with the meters.
        </p>
      )}
      <Bar>
        <Button onPress={() => addRecording(card.id)}>Add an I/Q recording</Button>
      </Bar>
      <Drive bench={bench} />
    </Part>
  );
}
