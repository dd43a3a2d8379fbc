'use client';
/** Shows how near another rig comes to a card, and makes the card there. */
import { useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { coreWork } from '@/client/workers/coreWork.ts';
import type { CopiedCard } from '@/core/advice/index.ts';
import {
  type DialValues,
  dialInRole,
  effective,
  equalizerText,
  factoryCard,
  MODE_LABELS,
  PURPOSE_LABELS,
  type RigProfile,
  responseOf,
  sheet,
} from '@/core/rig/index.ts';
import { fixed } from '@/core/units/index.ts';
import type { CardView } from '@/server/cards/cards.ts';
import type { CopyChoice } from '@/server/station/copyChoices.ts';
import type { Station } from '@/server/station/station.ts';
import { BalanceChart, type Curve, DRAWN_HZ } from '@/ui/charts/BalanceChart.tsx';
import { DialTable } from '@/ui/dials/DialTable.tsx';
import { Bar, Button, ButtonLink } from '@/ui/parts/Button.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';
import { Page, Shell } from '@/ui/shell/Shell.tsx';
import type { CardDraft } from '../cardDraft.ts';
import { NewCard } from '../NewCard.tsx';

export function CopyPage({ card, station, others }: { card: CardView; station: Station; others: readonly CopyChoice[] }) {
  const [rigId, setRigId] = useState(String(others[0]?.rig.id ?? ''));
  const [draft, setDraft] = useState<CardDraft | null>(null);
  const other = others.find(({ rig }) => String(rig.id) === rigId);
  const copied = useCopy(card, other);
  return (
    <Shell>
      <Page data-card={card.id}>
        <h1>Copy {card.name} to another rig</h1>
        <p className="soft">
          The dials of the other rig that sound nearest to revision {card.revisions[0].number} on {card.rig.name} (
          {equalizerText(card.rig.profile)}), the overall gain left to the ALC.
        </p>
        {!other ? (
          <p>The station has no other rig with {MODE_LABELS[card.mode]}. Describe one first, on the Station page.</p>
        ) : (
          <>
            <Picker
              label="To"
              choices={others.map(({ rig }) => ({ id: String(rig.id), text: rig.name, note: equalizerText(rig.profile) }))}
              value={rigId}
              onChange={setRigId}
            />
            {copied === null && <p style={{ marginTop: 10 }}>Calculating ...</p>}
            {typeof copied === 'string' && <p style={{ marginTop: 10 }}>{copied}</p>}
            {copied !== null && typeof copied !== 'string' && (
              <Copied card={card} other={other} copied={copied} onMake={() => setDraft(draftOf(card, other, copied))} />
            )}
          </>
        )}
        <Bar>
          <ButtonLink href={`/cards/${card.id}`}>Back to the card</ButtonLink>
        </Bar>
        {draft && <NewCard station={station} draft={draft} onClose={() => setDraft(null)} />}
      </Page>
    </Shell>
  );
}

const draftOf = (card: CardView, other: CopyChoice, copied: CopiedCard): CardDraft => ({
  name: card.name,
  operatorId: card.operator.id,
  microphoneId: card.microphone.id,
  rigId: other.rig.id,
  mode: copied.mode,
  purpose: card.purpose,
  values: copied.values,
  use: card.revisions[0].use,
  reason: `copied from ${card.name} on ${card.rig.name}, within ${fixed(copied.errorDb, 1)} dB`,
});

function Copied({ card, other, copied, onMake }: { card: CardView; other: CopyChoice; copied: CopiedCard; onMake: () => void }) {
  const rig = other.rig.profile;
  const curves = useMemo(() => curvesOf(card, rig, copied), [card, rig, copied]);
  const { passbandHz, dials } = effective(rig, copied);
  const set = new Set(sheet(rig, factoryCard(rig, copied.mode), copied).map(({ dial }) => dial.id));
  return (
    <>
      <p style={{ fontSize: 18, margin: '12px 0 4px' }}>
        <b>{copied.sentence}</b>
      </p>
      <ul style={{ margin: '0 0 10px', paddingLeft: 20 }}>
        {copied.notes.map((note) => (
          <li key={note}>{note}</li>
        ))}
        {other.known && <li>The mic gain is that of {other.known.name}, this voice's last card there with the same microphone.</li>}
      </ul>
      <BalanceChart
        curves={curves}
        passbandHz={passbandHz}
        range={rangeOf(curves)}
        height={220}
        label={`${copied.sentence} Curves of both equalizers and what remains between them.`}
      />
      <h2 style={{ marginTop: 12 }}>
        {rig.name}, {MODE_LABELS[copied.mode]}, for {PURPOSE_LABELS[card.purpose]}: what is not at its factory value
      </h2>
      <DialTable rows={dials.filter(({ dial }) => set.has(dial.id)).map((state) => ({ ...state, now: state.value }))} />
      <Bar>
        <Button primary onPress={onMake}>
          Make this card
        </Button>
      </Bar>
    </>
  );
}

function curvesOf(card: CardView, rig: RigProfile, copied: CopiedCard): Curve[] {
  const { passbandHz } = effective(rig, copied);
  const inside = DRAWN_HZ.map((hz) => hz >= passbandHz[0] && hz <= passbandHz[1]);
  const average = (levels: readonly number[]) => {
    const own = levels.filter((_, i) => inside[i]);
    return own.reduce((sum, db) => sum + db, 0) / Math.max(1, own.length);
  };
  const curve = (levels: readonly number[]) => {
    const gain = average(levels);
    return DRAWN_HZ.map((hz, i) => [hz, levels[i] - gain] as const);
  };
  const wanted = responseOf(card.rig.profile, { mode: card.mode, values: card.revisions[0].values }, DRAWN_HZ);
  return [
    { name: card.rig.name, role: 'target', points: curve(wanted) },
    { name: rig.name, role: 'predicted', points: curve(responseOf(rig, copied, DRAWN_HZ)) },
    { name: 'what remains', role: 'measured', points: copied.difference },
  ];
}

function rangeOf(curves: readonly Curve[]): readonly [number, number] {
  const reach = Math.max(9, ...curves.flatMap(({ points }) => points.map(([, db]) => Math.abs(db ?? 0))));
  const end = Math.min(30, Math.ceil(reach / 6) * 6);
  return [-end, end];
}

/** The nearest card on the other rig, from the page's worker; a sentence where there is none; null while it works. */
function useCopy(card: CardView, other: CopyChoice | undefined): CopiedCard | string | null {
  const { data, error } = useQuery({
    queryKey: ['copy', card.revisions[0].id, other?.rig.profile, other?.known],
    enabled: other !== undefined,
    queryFn: async (): Promise<CopiedCard | string> => {
      if (!other) throw new Error('there is no other rig');
      const start = other.known && keptValues(other.rig.profile, other.known.values);
      return coreWork().copyCard(
        card.rig.profile,
        { mode: card.mode, values: card.revisions[0].values },
        other.rig.profile,
        start ?? undefined,
      );
    },
  });
  return error ? `It could not be calculated: ${error.message}` : (data ?? null);
}

/** Of another card on that rig only the gains are of use: everything else is what the copy decides. */
function keptValues(rig: RigProfile, values: DialValues): DialValues {
  const gains = rig.modes.flatMap((mode) => dialInRole(rig, 'mic-gain', mode)?.id ?? []);
  return Object.fromEntries(gains.filter((id) => id in values).map((id) => [id, values[id]]));
}
