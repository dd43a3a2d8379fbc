'use client';
/** One over with its note, ALC reading and evidence. */
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import styled from 'styled-components';
import { asked } from '@/client/asked.ts';
import { useDraft } from '@/client/useDraft.ts';
import { useForm } from '@/client/useForm.ts';
import { useMeasureAgain } from '@/client/useMeasureAgain.ts';
import { useRefreshWhile } from '@/client/useRefreshWhile.ts';
import { RADIO_KINDS } from '@/core/measure/index.ts';
import { alcError, alcLabel, fullScale, MODE_LABELS, parseAlc } from '@/core/rig/index.ts';
import { bytes } from '@/core/units/index.ts';
import { measureCaptureAgain } from '@/server/measuring/actions.ts';
import { removeOver, saveOverNote } from '@/server/overs/actions.ts';
import type { OverView } from '@/server/overs/overView.ts';
import type { ReportView } from '@/server/reports/reports.ts';
import { Play } from '@/ui/listen/Play.tsx';
import { HeardOn } from '@/ui/measured/HeardOn.tsx';
import { Measured } from '@/ui/measured/Measured.tsx';
import { Bar, Button, ButtonLink, FileLink } from '@/ui/parts/Button.tsx';
import { Dialog } from '@/ui/parts/Dialog.tsx';
import { RefusalNotice, RestoredNotice } from '@/ui/parts/DraftNotice.tsx';
import { Field } from '@/ui/parts/Field.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';
import { ReportLines } from '@/ui/reports/ReportLines.tsx';
import { Page, Shell } from '@/ui/shell/Shell.tsx';
import { utc } from '@/ui/utc.ts';
import { MeasuredAs } from './MeasuredAs.tsx';
import { MOST_OVERS } from './most.ts';

const Form = styled.form`display: grid; grid-template-columns: 190px 190px 1fr auto; gap: 12px; align-items: end; margin: 10px 0 4px;
  @media (max-width: 700px) { grid-template-columns: minmax(0, 1fr); }`;
const Trace = styled.p`font-size: 13px; color: var(--soft); overflow-wrap: anywhere; border-top: 1px solid var(--line); padding-top: 8px; margin-top: 14px;`;

const REFRESH_MS = 1000;

interface OverProps {
  /** As the receiver in view heard it. */
  readonly over: OverView;
  readonly captures: readonly OverView[];
  readonly reports: readonly ReportView[];
}

export function Over({ over, captures, reports }: OverProps) {
  const again = useMeasureAgain(over);
  const status = over.measurement?.status;
  const isWaiting = captures.some(({ measurement }) => measurement?.status === 'queued' || measurement?.status === 'running');
  useRefreshWhile(isWaiting, REFRESH_MS);
  return (
    <Shell>
      <Page data-card={over.card.id}>
        <h1>Over {over.id}</h1>
        <p className="soft">
          {utc(over.madeAt)} UTC. {over.operator.name} ({over.operator.callsign}) on {over.rig.name}, {MODE_LABELS[over.card.mode]}, card{' '}
          <Link href={`/cards/${over.card.id}`}>{over.card.name}</Link> rev. {over.revision.number}, heard on {over.receiver.name}, into{' '}
          {over.load === 'dummy load' ? 'a dummy load' : 'the antenna'}
          {over.powerW === null ? '' : ` with ${over.powerW} W`}.
          {over.card.practiceRadio !== null && <b> Practice radio {over.card.practiceRadio}: simulated, not of the real log.</b>}
        </p>
        {captures.length > 1 && <Receivers captures={captures} shownId={over.capture?.id} />}
        {captures.length === 1 && over.evidence && over.capture && <Play captureId={over.capture.id} label={`over ${over.id}`} />}
        <Measured over={over} again={again} />
        <NoteForm over={over} />
        <section aria-label="Reports">
          <h2>Reports</h2>
          {reports.length > 0 && <ReportLines reports={reports} />}
          <Link href={`/reports?card=${over.card.id}&over=${over.id}`}>
            {reports.length === 0 ? 'Note what another station said of it' : 'Note another'}
          </Link>
        </section>
        <Bar>
          {over.measured && (
            <ButtonLink $primary href={`/bench?card=${over.card.id}&over=${over.id}&stage=equalizer`}>
              Work on it at the Bench
            </ButtonLink>
          )}
          {status === 'failed' && over.capture && <Again captureId={over.capture.id} />}
          {over.evidence && RADIO_KINDS.includes(over.evidence.result.kind) && (
            <ButtonLink
              href={`/station/rigs/${over.rig.id}/air${over.card.practiceRadio === null ? '' : `?practice=${over.card.practiceRadio}`}`}
            >
              Is this radio fit for the air?
            </ButtonLink>
          )}
          {over.capture && <FileLink href={`/api/captures/${over.capture.id}`}>Save the recording</FileLink>}
          {over.capture && RADIO_KINDS.includes(over.capture.kind) && <SaveSigmf captureId={over.capture.id} />}
          {over.evidence?.result.kind === 'response' && (
            <FileLink href={`/api/captures/${over.capture?.id}?as=curve`}>Save the curve</FileLink>
          )}
          <Delete over={over} />
        </Bar>
        {over.capture && <MeasuredAs key={over.measurement?.id} over={{ ...over, capture: over.capture }} />}
        {over.capture && (
          <Trace>
            {over.capture.fileName}, {bytes(over.capture.bytes)}, SHA-256 {over.capture.sha256}
            {over.measurement && `; measured with core ${over.measurement.coreVersion}`}
          </Trace>
        )}
      </Page>
    </Shell>
  );
}

/** The over as all its receivers heard it. */
function Receivers({ captures, shownId }: { captures: readonly OverView[]; shownId?: number }) {
  const ids = captures.flatMap(({ evidence, capture }) => (evidence && capture ? [capture.id] : [])).slice(0, MOST_OVERS);
  return (
    <section aria-label="Receivers">
      <h2>{captures.length} receivers</h2>
      <HeardOn captures={captures} shownId={shownId} />
      {ids.length > 1 && (
        <Bar>
          <ButtonLink href={`/overs/compare?captures=${ids.join(',')}`}>Compare {ids.length} of them</ButtonLink>
        </Bar>
      )}
    </section>
  );
}

function Again({ captureId }: { captureId: number }) {
  const [message, setMessage] = useState<string | null>(null);
  const again = async () => {
    const answer = await asked(measureCaptureAgain({ captureId }));
    setMessage(answer.ok ? null : answer.message);
  };
  return (
    <>
      <Button onPress={() => void again()}>Measure again</Button>
      {message && <Notice tone="fault">{message}</Notice>}
    </>
  );
}

/** SigMF is two files. */
function SaveSigmf({ captureId }: { captureId: number }) {
  return (
    <>
      <FileLink href={`/api/captures/${captureId}?as=sigmf-meta`}>Save as SigMF: meta</FileLink>
      <FileLink href={`/api/captures/${captureId}?as=sigmf-data`}>data</FileLink>
    </>
  );
}

type MonitorChoice = 'unknown' | 'on' | 'off';
const HAS_MONITOR: Record<MonitorChoice, boolean | null> = { unknown: null, on: true, off: false };
const MONITOR_CHOICES: readonly { id: MonitorChoice; text: string; note?: string }[] = [
  { id: 'unknown', text: 'not noted' },
  { id: 'on', text: 'on', note: 'the operator heard himself' },
  { id: 'off', text: 'off' },
];
const monitorOf = (hasMonitor: boolean | null): MonitorChoice => (hasMonitor === null ? 'unknown' : hasMonitor ? 'on' : 'off');

function NoteForm({ over }: { over: OverView }) {
  const full = fullScale(over.rig.profile.alc);
  const draft = useDraft(`over ${over.id}`, {
    alc: over.alcReading === null ? '' : String(Number((over.alcReading * full).toFixed(4))),
    note: over.note,
    monitor: monitorOf(over.hasMonitor),
  });
  const { alc, note, monitor } = draft.value;
  const alcReading = parseAlc(alc, full);
  const [isKept, setIsKept] = useState(false);
  const { refusal, isSaving, submit, force } = useForm(
    draft,
    async (base) =>
      saveOverNote({
        overId: over.id,
        alcReading: alcReading ?? null,
        note,
        hasMonitor: HAS_MONITOR[monitor],
        ...(base && { base: asStored(base, over) }),
      }),
    () => setIsKept(true),
  );
  return (
    <>
      <RestoredNotice at={draft.restoredAt} onDiscard={draft.discard} />
      <Form
        onSubmit={(event) => {
          event.preventDefault();
          if (alcReading !== undefined) submit();
        }}
      >
        <Field
          label={alcLabel(full)}
          value={alc}
          onChange={(text) => draft.set({ alc: text })}
          error={alcReading === undefined ? alcError(full) : undefined}
        />
        <Picker
          label="Own monitor on headphones"
          choices={MONITOR_CHOICES}
          value={monitor}
          onChange={(id) => draft.set({ monitor: id as MonitorChoice })}
        />
        <Field label="Note" value={note} onChange={(text) => draft.set({ note: text })} maxLength={1000} />
        <Button type="submit" isPending={isSaving} isDisabled={alcReading === undefined}>
          Save note
        </Button>
      </Form>
      <RefusalNotice refusal={refusal} onForce={force} />
      {isKept && !draft.isChanged && !refusal && <Notice>Saved.</Notice>}
    </>
  );
}

/** What the form began with, as the server has it: a reading has more digits than its field shows. */
function asStored({ alc, note, monitor }: { alc: string; note: string; monitor: MonitorChoice }, over: OverView) {
  const full = fullScale(over.rig.profile.alc);
  const shown = over.alcReading === null ? '' : String(Number((over.alcReading * full).toFixed(4)));
  return { alcReading: alc === shown ? over.alcReading : (parseAlc(alc, full) ?? null), note, hasMonitor: HAS_MONITOR[monitor] };
}

function Delete({ over }: { over: OverView }) {
  const router = useRouter();
  const [isAsking, setIsAsking] = useState(false);
  const [message, setMessage] = useState<string | null>(null);
  return (
    <>
      <Button onPress={() => setIsAsking(true)}>Delete</Button>
      <Dialog title={`Delete over ${over.id}?`} isOpen={isAsking} onClose={() => setIsAsking(false)}>
        <p>Its recordings and their numbers are deleted for good. Moves that came from it stay on the card.</p>
        {message && <Notice tone="fault">{message}</Notice>}
        <Bar>
          <Button
            primary
            onPress={async () => {
              const answer = await asked(removeOver({ overId: over.id }));
              if (answer.ok) router.push('/overs');
              else setMessage(answer.message);
            }}
          >
            Delete the evidence
          </Button>
          <Button onPress={() => setIsAsking(false)}>Cancel</Button>
        </Bar>
      </Dialog>
    </>
  );
}
