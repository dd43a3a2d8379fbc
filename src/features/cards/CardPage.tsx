'use client';
/** Every dial of a card by stage, edited in place, with what the chain does; revisions and the way back beside it. */
import Link from 'next/link';
import styled from 'styled-components';
import { type LineOver, lineContext, runDialLine } from '@/client/dialLineRun.ts';
import { useDraft } from '@/client/useDraft.ts';
import { useSave } from '@/client/useSave.ts';
import { useWorkingCard } from '@/client/useWorkingCard.ts';
import {
  type Card,
  DIAL_STAGES,
  type DialValue,
  type DialValues,
  effective,
  isSameUse,
  type MicrophoneUse,
  MODE_LABELS,
  PURPOSE_LABELS,
  type RigProfile,
  STAGE_NAMES,
  valueOn,
  valueText,
} from '@/core/rig/index.ts';
import type { CardView } from '@/server/cards/cards.ts';
import type { Station } from '@/server/station/station.ts';
import { DialLine } from '@/ui/dialLine/DialLine.tsx';
import { ChainCurve } from '@/ui/dials/ChainCurve.tsx';
import { DialTable } from '@/ui/dials/DialTable.tsx';
import { Mistakes } from '@/ui/dials/Mistakes.tsx';
import { UseOfMicrophone } from '@/ui/dials/UseOfMicrophone.tsx';
import { useDistance } from '@/ui/distance.ts';
import { Bar, Button } from '@/ui/parts/Button.tsx';
import { RestoredNotice } from '@/ui/parts/DraftNotice.tsx';
import { Field } from '@/ui/parts/Field.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import { SaveNotice } from '@/ui/shell/SaveNotice.tsx';
import { Page, Shell } from '@/ui/shell/Shell.tsx';
import { CardActions } from './CardActions.tsx';
import { History } from './History.tsx';
import { WidthReadings } from './WidthReadings.tsx';

const Columns = styled.div`
  display: grid; grid-template-columns: minmax(0, 1fr) 372px; gap: 32px; align-items: start;
  @media (max-width: 900px) { grid-template-columns: minmax(0, 1fr); }
  @media print { grid-template-columns: 1fr; }
  h2 { margin-top: 14px; }`;
const Side = styled.div`display: grid; gap: 12px; align-content: start;`;

const NOTHING = { draft: {}, wantedUse: null, reason: '' };

export function CardPage({ card, over, station }: { card: CardView; over: LineOver | null; station: Station }) {
  useWorkingCard(card.id);
  const distance = useDistance();
  const rig = card.rig.profile;
  const [newest] = card.revisions;
  const kept = useDraft<{ draft: DialValues; wantedUse: MicrophoneUse | null; reason: string }>(`card ${card.id}`, NOTHING);
  const { draft, wantedUse, reason } = kept.value;
  const use = wantedUse ?? newest.use;
  const { save, isSaving, refusal, forget } = useSave({ card, over: null });
  const now = { mode: card.mode, values: newest.values };
  const wanted = { mode: card.mode, values: { ...now.values, ...draft } };
  const { dials } = effective(rig, wanted);
  const changed = dials.filter(({ dial, value }) => valueOn(now, dial) !== value);
  const isMoved = !isSameUse(use, newest.use);
  const count = changed.length + Number(isMoved);
  const put = () =>
    save(
      {
        values: Object.fromEntries(changed.map(({ dial, value }) => [dial.id, value])),
        reason: reason.trim() || 'changed by hand',
        ...(isMoved ? { use } : {}),
      },
      kept.discard,
    );
  return (
    <Shell>
      <Page data-card={card.id}>
        <h1>
          {card.name}
          {card.practiceRadio !== null && <span className="soft"> (simulated)</span>}
          {card.isRetired && <span className="soft"> (retired)</span>}
        </h1>
        <p className="soft">
          {card.operator.name} ({card.operator.callsign}) on {card.rig.name}, {card.microphone.name} ({distance.useText(newest.use)}),{' '}
          {MODE_LABELS[card.mode]}, for {PURPOSE_LABELS[card.purpose]}. Revision {newest.number}.
        </p>
        <CardActions card={card} station={station} />
        {newest.reason.startsWith('starting point') && (
          <Notice>These numbers are a starting point of common practice. Nothing was measured yet: make an over with them next.</Notice>
        )}
        <Mistakes rig={rig} card={wanted} />
        <Columns>
          <div>
            <ChainCurve rig={rig} card={wanted} microphone={card.microphone.profile} use={use} />
            <section>
              <h2>Microphone</h2>
              <UseOfMicrophone
                key={newest.id}
                microphone={card.microphone.profile}
                use={use}
                onChange={(wanted) => kept.set({ wantedUse: wanted })}
              />
            </section>
            <Stages rig={rig} now={now} wanted={wanted} onDial={(id, value) => kept.set({ draft: { ...draft, [id]: value } })} />
          </div>
          <Side className="no-print">
            <section aria-label="Save">
              <h2>{count === 0 ? 'No unsaved changes' : `${count} ${count === 1 ? 'change' : 'changes'}`}</h2>
              {count > 0 && (
                <>
                  <Field
                    label="Why (kept with the revision)"
                    value={reason}
                    onChange={(text) => kept.set({ reason: text })}
                    maxLength={300}
                  />
                  <Bar>
                    <Button primary isDisabled={isSaving} onPress={put}>
                      Save as revision {newest.number + 1}
                    </Button>
                    <Button onPress={kept.discard}>Cancel</Button>
                  </Bar>
                </>
              )}
              <RestoredNotice at={count > 0 ? kept.restoredAt : null} onDiscard={kept.discard} />
              <SaveNotice refusal={refusal} forget={forget} />
            </section>
            <DialLine rig={rig} card={now} context={lineContext(card)} enter={(line, words) => runDialLine(line, words, { card, over })} />
            <History card={card} />
            <Link href={`/reports?card=${card.id}`}>Reports of this card</Link>
          </Side>
        </Columns>
      </Page>
    </Shell>
  );
}

interface StagesProps {
  readonly rig: RigProfile;
  readonly now: Card;
  readonly wanted: Card;
  readonly onDial: (id: string, value: DialValue) => void;
}

/** Every dial, in the order of the signal's path. */
function Stages({ rig, now, wanted, onDial }: StagesProps) {
  const { dials } = effective(rig, wanted);
  return DIAL_STAGES.map((stage) => {
    const own = dials.filter(({ dial }) => dial.stage === stage);
    if (own.length === 0) return null;
    const rows = own.map((state) => {
      const before = valueOn(now, state.dial);
      return {
        ...state,
        now: before,
        why: state.value === before ? '' : `was ${valueText(state.dial, before)}`,
        onChange: (value: DialValue) => onDial(state.dial.id, value),
      };
    });
    return (
      <section key={stage}>
        <h2>{STAGE_NAMES[stage]}</h2>
        <DialTable opensDead rows={rows} />
        {stage === 'equalizer' && <WidthReadings rig={rig} card={wanted} />}
      </section>
    );
  });
}
