'use client';
/** How this run makes an over: a recording, the sound card, the meters alone, or the practice radio. */
import dynamic from 'next/dynamic';
import Link from 'next/link';
import { useState, useTransition } from 'react';
import { useAddRecording } from '@/client/addRecording.ts';
import { asked } from '@/client/asked.ts';
import { useRefreshWhile } from '@/client/useRefreshWhile.ts';
import { hasAlc, readingText } from '@/core/rig/index.ts';
import { PRACTICE_RECEIVERS } from '@/core/simulate/index.ts';
import { saidBy, type TuneRun } from '@/core/tune/index.ts';
import type { BenchView } from '@/server/bench/bench.ts';
import { talkInPractice } from '@/server/practice/actions.ts';
import { Bar, Button } from '@/ui/parts/Button.tsx';
import { Check } from '@/ui/parts/Check.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';
import { ReadingForm } from '@/ui/readings/ReadingForm.tsx';

/** Only a run that listens on the sound card needs what hears it. */
const LiveGrab = dynamic(() => import('@/ui/measured/LiveGrab.tsx').then((module) => module.LiveGrab));

/** While something is measured the page is looked at anew so often. */
const AGAIN_MS = 1500;

export function OverBox({ bench, run }: { bench: BenchView; run: TuneRun }) {
  const { card, over } = bench;
  const [newest] = card.revisions;
  const addRecording = useAddRecording();
  useRefreshWhile(
    bench.overs.some(({ status }) => status === 'queued' || status === 'running'),
    AGAIN_MS,
  );
  const add = <Button onPress={() => addRecording(card.id)}>Add a recording</Button>;
  return (
    <section aria-label="Over">
      <h2 style={{ margin: 0 }}>{run.ears === 'none' ? 'Meters' : 'The next over'}</h2>
      {run.ears === 'practice' && <Talk bench={bench} />}
      {run.ears === 'files' && <Bar style={{ marginBottom: 12 }}>{add}</Bar>}
      {run.ears === 'live' && <LiveGrab>{add}</LiveGrab>}
      {run.ears !== 'practice' && hasAlc(card) && (
        <ReadingForm
          key={newest.id}
          card={card}
          overId={run.ears !== 'none' && over?.revision.id === newest.id ? over.id : null}
          said={saidBy(run)}
          hasAnalyser={run.at === 'verify'}
        />
      )}
      <Newest bench={bench} />
    </section>
  );
}

/** Keys the practice radio: its over is measured and its meters are read as on a real one. */
function Talk({ bench: { card } }: { bench: BenchView }) {
  const [receiver, setReceiver] = useState('0');
  const [isIq, setIsIq] = useState(true);
  const [message, setMessage] = useState<string | null>(null);
  const [isTalking, start] = useTransition();
  const talk = () =>
    start(async () => {
      const answer = await asked(talkInPractice({ cardId: card.id, receiver: Number(receiver), isIq, load: 'dummy load' }));
      setMessage(answer.ok ? null : answer.message);
    });
  return (
    <>
      <p className="soft" style={{ marginTop: 4 }}>
        Practice radio {card.practiceRadio}: a simulation with faults of its own, set as the card has it.
      </p>
      <Bar style={{ alignItems: 'end' }}>
        <Picker
          label="Heard by"
          value={receiver}
          choices={PRACTICE_RECEIVERS.map(({ name }, k) => ({ id: String(k), text: name }))}
          onChange={setReceiver}
        />
        <Check isSelected={isIq} onChange={setIsIq}>
          with I/Q
        </Check>
      </Bar>
      <Bar>
        <Button primary isDisabled={isTalking} onPress={talk}>
          {isTalking ? 'Talking ...' : 'Key up and talk'}
        </Button>
      </Bar>
      {message && <Notice tone="fault">{message}</Notice>}
    </>
  );
}

/** The newest over of the card, and what the meter showed. */
function Newest({ bench: { card, overs, readings } }: { bench: BenchView }) {
  const [over] = overs;
  const read = readings.find(({ alc }) => alc !== null);
  const newest = card.revisions[0].number;
  if (!over && !read) return null;
  const status = { queued: 'being measured', running: 'being measured', failed: 'could not be measured', done: over?.headline };
  return (
    <p className="soft" style={{ marginTop: 12 }}>
      {over && (
        <>
          <Link href={`/overs/${over.id}`}>Over {over.id}</Link>
          {over.revision === newest ? '' : ` (revision ${over.revision})`}: {over.status ? status[over.status] : 'no recording'}.{' '}
        </>
      )}
      {read &&
        `ALC last read ${readingText(card.rig.profile.alc, read.alc ?? 0)}${read.revision.number === newest ? '' : ` with revision ${read.revision.number}`}.`}
    </p>
  );
}
