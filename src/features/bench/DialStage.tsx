'use client';
/** A stage's dials as the card has them, and what is still missing where it is not measured. */
import Link from 'next/link';
import { schooledRig } from '@/client/cardStanding.ts';
import { useDraft } from '@/client/useDraft.ts';
import { elsewhereOf, modelVoiceOf } from '@/client/useJudged.ts';
import { useSave } from '@/client/useSave.ts';
import type { AlcStanding } from '@/core/advice/index.ts';
import { type DialValues, effective, hasAlc, type Mode, STAGE_NAMES, type StageKey, valueOn } from '@/core/rig/index.ts';
import { frequency } from '@/core/units/index.ts';
import type { BenchView } from '@/server/bench/bench.ts';
import { CarrierOffset } from '@/ui/advisors/CarrierOffset.tsx';
import { Compression } from '@/ui/advisors/Compression.tsx';
import { Drive } from '@/ui/advisors/Drive.tsx';
import { Passbands } from '@/ui/advisors/Passbands.tsx';
import { AlcScale } from '@/ui/dials/AlcScale.tsx';
import { ChainCurve } from '@/ui/dials/ChainCurve.tsx';
import { DialTable } from '@/ui/dials/DialTable.tsx';
import { Bar, Button, ButtonLink } from '@/ui/parts/Button.tsx';
import { SaveNotice } from '@/ui/shell/SaveNotice.tsx';
import { HeardReports, Receivers } from './HeardReports.tsx';
import { MeasuredPassband } from './MeasuredPassband.tsx';
import { CompressorCurve } from './model/CompressorCurve.tsx';
import { ModelPanel } from './model/ModelPanel.tsx';
import { Readings } from './Readings.tsx';

const ABOUT: Partial<Record<StageKey, string>> = {
  gain: 'Turn it so that the ALC reads inside its zone on speech peaks; what number that takes differs from radio to radio and mic to mic.',
  compressor: 'It raises the average power and the noise of the room with it; read the ALC again after any change.',
  passband:
    'The nominal edges; a test sweep (Station, Test bench) or an I/Q recording measures the real ones. The equalizer can do nothing outside them.',
  heard: 'What another station hears, as the model has it: choose a path and a receiver, and listen.',
};
/** AM and FM have a level of their own, which an I/Q recording tells. */
const OWN_LEVEL: Partial<Record<Mode, Partial<Record<StageKey, string>>>> = {
  am: { gain: 'Turn it so that peaks modulate the carrier nearly to the full, and never cut it off.' },
  fm: {
    gain: 'Turn it so that peaks deviate as far as the channel is wide for, and no farther.',
    alc: 'FM has no ALC to set: its level is how far peaks deviate, and the mic gain sets that.',
  },
};
/** Stages that the model tells something of. */
const MODELLED: readonly StageKey[] = ['gain', 'compressor', 'passband', 'alc', 'heard'];

const NOTHING: DialValues = {};

interface DialStageProps {
  readonly stage: StageKey;
  readonly bench: BenchView;
  readonly standing: AlcStanding;
  /** Depth or deviation says where the gain goes, and the ALC does not. */
  readonly hasOwnLevel: boolean;
}

export function DialStage({ stage, bench, standing, hasOwnLevel }: DialStageProps) {
  const { card } = bench;
  const rig = card.rig.profile;
  const { value: draft, set, discard } = useDraft<DialValues>(`bench ${stage} ${card.id}`, NOTHING);
  const { save, isSaving, refusal, forget } = useSave({ card, over: null });
  const now = { mode: card.mode, values: card.revisions[0].values };
  const wanted = { mode: card.mode, values: { ...now.values, ...draft } };
  const settings = effective(rig, wanted);
  const voice = modelVoiceOf(bench);
  const elsewhere = elsewhereOf(bench, card);
  // The ALC is set by the mic gain: its dial stands beside the meter.
  const own = settings.dials.filter(({ dial }) => dial.stage === stage || (stage === 'alc' && dial.id === standing.gain?.dial.id));
  const changed = own.filter(({ dial, value }) => valueOn(now, dial) !== value);
  const ownLevel = OWN_LEVEL[card.mode];
  const about = ownLevel?.[stage] ?? ABOUT[stage];
  return (
    <>
      <h1>{STAGE_NAMES[stage]}</h1>
      {about && <p className="soft">{about}</p>}
      {stage === 'passband' && (
        <p>
          {frequency(settings.passbandHz[0])} to {frequency(settings.passbandHz[1])} by the rig’s profile.
        </p>
      )}
      {stage === 'passband' && <MeasuredPassband bench={bench} said={settings.passbandHz} />}
      {stage === 'passband' && <ChainCurve rig={rig} card={wanted} microphone={card.microphone.profile} use={card.revisions[0].use} />}
      {stage === 'compressor' && <CompressorCurve rig={rig} now={now} wanted={wanted} />}
      {stage === 'alc' && hasAlc(card) && <AlcScale alc={schooledRig(bench).alc} reading={standing.newest?.alc ?? null} />}
      {own.length > 0 && (
        <DialTable
          rows={own.map((state) => ({
            ...state,
            now: valueOn(now, state.dial),
            why: state.value === valueOn(now, state.dial) ? '' : 'not on the card yet',
            onChange: (value) => set({ [state.dial.id]: value }),
          }))}
        />
      )}
      {own.length === 0 && !['alc', 'heard', 'on-air'].includes(stage) && <p>{rig.name} has no dial here.</p>}
      <Bar>
        {own.length > 0 && (
          <Button
            primary
            isDisabled={changed.length === 0 || isSaving}
            onPress={() =>
              save(
                {
                  values: Object.fromEntries(changed.map(({ dial, value }) => [dial.id, value])),
                  reason: `${STAGE_NAMES[stage].toLowerCase()} set by hand`,
                },
                discard,
              )
            }
          >
            {changed.length === 0 ? 'No unsaved changes' : 'Put on the card'}
          </Button>
        )}
        {changed.length > 0 && <Button onPress={discard}>Cancel</Button>}
        <ButtonLink href={`/cards/${card.id}`}>Full card</ButtonLink>
      </Bar>
      <SaveNotice refusal={refusal} forget={forget} />
      {stage === 'gain' && ownLevel && <Drive bench={bench} />}
      {((stage === 'alc' && hasAlc(card)) || stage === 'gain') && <Readings bench={bench} standing={standing} hasOwnLevel={hasOwnLevel} />}
      {MODELLED.includes(stage) && <ModelPanel stage={stage} rig={rig} voice={voice} elsewhere={elsewhere} now={now} wanted={wanted} />}
      {stage === 'passband' && <Passbands bench={bench} />}
      {stage === 'passband' && <CarrierOffset bench={bench} />}
      {stage === 'compressor' && <Compression bench={bench} />}
      {stage === 'heard' && bench.heard.length > 1 && <Receivers bench={bench} />}
      {stage === 'heard' && <HeardReports bench={bench} />}
      {stage === 'heard' && (
        <p style={{ marginTop: 14 }}>
          <Link href={`/cards/reach?card=${card.id}`}>All cards of this voice by reach and naturalness</Link>
        </p>
      )}
    </>
  );
}
