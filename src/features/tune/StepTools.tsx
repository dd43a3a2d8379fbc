'use client';
/** What a step needs beside its words: the card made flat, passbands to choose, where to look further. */
import dynamic from 'next/dynamic';
import Link from 'next/link';
import { useSave } from '@/client/useSave.ts';
import { isBaseline, monitorWorth, toBaseline } from '@/core/advice/index.ts';
import { dialOf, valueText } from '@/core/rig/index.ts';
import { type TuneRun, type TuneStep, wishOf } from '@/core/tune/index.ts';
import type { BenchView } from '@/server/bench/bench.ts';
import type { CardEvidence } from '@/server/bench/cardEvidence.ts';
import { AlcScale } from '@/ui/dials/AlcScale.tsx';
import { Findings } from '@/ui/measured/Findings.tsx';
import { Bar, Button, ButtonLink } from '@/ui/parts/Button.tsx';
import { SaveNotice } from '@/ui/shell/SaveNotice.tsx';

/** Each step loads what it shows; the others need not. */
const CarrierOffset = dynamic(() => import('@/ui/advisors/CarrierOffset.tsx').then((module) => module.CarrierOffset));
const Compression = dynamic(() => import('@/ui/advisors/Compression.tsx').then((module) => module.Compression));
const Passbands = dynamic(() => import('@/ui/advisors/Passbands.tsx').then((module) => module.Passbands));
const MicrophoneUsed = dynamic(() => import('@/ui/advisors/MicrophoneUsed.tsx').then((module) => module.MicrophoneUsed));
const VoiceCurve = dynamic(() => import('./VoiceCurve.tsx').then((module) => module.VoiceCurve));
const Drive = dynamic(() => import('@/ui/advisors/Drive.tsx').then((module) => module.Drive));

interface StepToolsProps {
  readonly step: TuneStep;
  readonly bench: BenchView;
  readonly run: TuneRun;
  readonly evidence: CardEvidence;
}

export function StepTools({ step: { key }, bench, run, evidence }: StepToolsProps) {
  const { card } = bench;
  const worth = monitorWorth(bench.spreads);
  switch (key) {
    case 'microphone':
      return (
        <>
          <MicrophoneUsed card={card} />
          {worth && <p>{worth.text}</p>}
          <Heard bench={bench} />
        </>
      );
    case 'baseline':
      return <Baseline bench={bench} />;
    case 'passband':
      return (
        <>
          <Passbands bench={bench} />
          <CarrierOffset bench={bench} given={evidence} />
        </>
      );
    case 'gain':
    case 'alc-again':
      if (card.mode === 'fm') return <Drive bench={bench} given={evidence} isTold />;
      return (
        <>
          <AlcScale alc={{ ...card.rig.profile.alc, zone: zoneOf(run, bench) }} reading={newestAlc(bench)} />
          {card.mode === 'am' && <Drive bench={bench} given={evidence} isTold />}
        </>
      );
    case 'compressor':
      return <Compression bench={bench} />;
    case 'equalizer':
      return (
        <>
          <VoiceCurve bench={bench} />
          <p>
            <Link href={`/bench?card=${card.id}&stage=equalizer`}>The fit band by band, to see and hear</Link>
          </p>
        </>
      );
    case 'verify':
      return <Heard bench={bench} />;
    case 'reports':
      return (
        <Bar>
          <ButtonLink href={`/aircheck?card=${card.id}`}>Begin an air check</ButtonLink>
          <ButtonLink href={`/reports?card=${card.id}`}>Note a report</ButtonLink>
        </Bar>
      );
    case 'finish':
      return (
        <Bar>
          <ButtonLink href={`/cards/${card.id}/sheet`}>Dial sheet</ButtonLink>
          {run.ears !== 'practice' && <ButtonLink href={`/station/rigs/${card.rig.id}/memories`}>Voice memories</ButtonLink>}
          {run.ears === 'practice' && <ButtonLink href={`/practice?card=${card.id}`}>What the radio hides, and your score</ButtonLink>}
        </Bar>
      );
    default:
      return null;
  }
}

const zoneOf = (run: TuneRun, { card }: BenchView): [number, number] => {
  const [low, high] = wishOf(run, card.rig.profile).alcZone;
  return [low, high];
};
const newestAlc = ({ readings }: BenchView): number | null => readings.find(({ alc }) => alc !== null)?.alc ?? null;

/** What was found on the recording of the card as it stands. */
function Heard({ bench: { card, over } }: { bench: BenchView }) {
  if (!over?.measured || over.revision.id !== card.revisions[0].id) return null;
  return (
    <>
      <h2>
        Over {over.id}, {over.receiver.name}
      </h2>
      <Findings findings={over.measured.result.findings} />
    </>
  );
}

function Baseline({ bench: { card } }: { bench: BenchView }) {
  const { save, isSaving, refusal, forget } = useSave({ card, over: null });
  const rig = card.rig.profile;
  const now = { mode: card.mode, values: card.revisions[0].values };
  const values = toBaseline(rig, now);
  const dials = Object.entries(values).map(([id, value]) => `${dialOf(rig, id).label} to ${valueText(dialOf(rig, id), value)}`);
  if (dials.length === 0)
    return (
      <p className="soft">{isBaseline(rig, now) ? 'The card is flat and uncompressed.' : 'No dial of this radio makes it flatter.'}</p>
    );
  return (
    <>
      <p>To be set: {dials.join(', ')}.</p>
      <Bar>
        <Button isDisabled={isSaving} onPress={() => save({ values, reason: 'baseline: flat, no compression' })}>
          Put them on the card
        </Button>
        <ButtonLink href={`/cards/${card.id}/sheet`}>Dial sheet</ButtonLink>
      </Bar>
      <SaveNotice refusal={refusal} forget={forget} />
    </>
  );
}
