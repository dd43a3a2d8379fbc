'use client';
/** A stage that is not measured yet: its dials as the card has them, and what is still missing. */
import { useState } from 'react';
import styled from 'styled-components';
import { type DialValues, valueOn } from '@/core/station/card.ts';
import { effective } from '@/core/station/effective.ts';
import type { BenchView } from '@/server/bench.ts';
import { hertz } from '@/ui/format.ts';
import { Bar, Button, ButtonLink } from '@/ui/parts/Button.tsx';
import { DialTable } from '@/ui/parts/DialTable.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import { useSave } from '../cards/useSave.ts';
import { STAGE_NAMES, type StageKey } from './stages.ts';

const Scale = styled.div`
  position: relative; height: 34px; max-width: 520px; border: 1px solid var(--line); background: var(--sheet); margin: 10px 0 26px;
  .zone { position: absolute; inset-block: 0; background: var(--signal-wash); border-inline: 1px solid var(--signal); }
  .needle { position: absolute; inset-block: -5px; width: 3px; background: var(--ink); }
  .tick { position: absolute; top: 100%; transform: translateX(-50%); font-size: 12.5px; color: var(--soft); }`;

const ABOUT: Partial<Record<StageKey, string>> = {
  mic: 'Not measured yet: the microphone is judged from a response measurement, which Dial Tune does not make yet. Keep the distance you note here; another mic or distance makes every number after it wrong.',
  gain: 'Not measured yet. Turn it so that the ALC reads inside its zone on speech peaks; what number that takes differs from radio to radio and mic to mic.',
  compressor: 'Not measured yet. It raises the average power and the noise of the room with it; look at the ALC again after any change.',
  passband: 'Not measured yet: these are the edges that the dials promise. They bound everything the equalizer can do.',
  'on-air': 'Not measured yet: splatter, opposite sideband and carrier need an IQ recording of the signal.',
  heard: 'Not measured yet: reach and reports are not built in so far. For now, compare overs on the Voice stage.',
};

export function DialStage({ stage, bench }: { stage: StageKey; bench: BenchView }) {
  const { card } = bench;
  const rig = card.rig.profile;
  const [draft, setDraft] = useState<DialValues>({});
  const { save, isSaving, message } = useSave({ card, over: null });
  const now = { mode: card.mode, values: card.revisions[0].values };
  const wanted = { mode: card.mode, values: { ...now.values, ...draft } };
  const settings = effective(rig, wanted);
  const own = settings.dials.filter(({ dial }) => dial.stage === stage);
  const changed = own.filter(({ dial, value }) => valueOn(now, dial) !== value);
  return (
    <>
      <h1>{STAGE_NAMES[stage]}</h1>
      {ABOUT[stage] && <p className="soft">{ABOUT[stage]}</p>}
      {stage === 'mic' && (
        <p>
          {card.microphone.name}, {card.microphone.kind}
          {card.microphone.distanceCm === null ? '' : `, ${card.microphone.distanceCm} cm away`}.
        </p>
      )}
      {stage === 'passband' && (
        <p>
          {hertz(settings.passbandHz[0])} to {hertz(settings.passbandHz[1])}.
        </p>
      )}
      {stage === 'alc' && <AlcScale bench={bench} />}
      {own.length > 0 && (
        <DialTable
          rows={own.map((state) => ({
            ...state,
            now: valueOn(now, state.dial),
            why: state.value === valueOn(now, state.dial) ? '' : 'not on the card yet',
            onChange: (value) => setDraft({ ...draft, [state.dial.id]: value }),
          }))}
        />
      )}
      {own.length === 0 && stage !== 'alc' && stage !== 'heard' && <p>{rig.name} has no dial here.</p>}
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
                () => setDraft({}),
              )
            }
          >
            {changed.length === 0 ? 'Nothing changed' : 'Put on the card'}
          </Button>
        )}
        {changed.length > 0 && <Button onPress={() => setDraft({})}>Leave it as it was</Button>}
        <ButtonLink href={`/cards/${card.id}`}>The whole card</ButtonLink>
      </Bar>
      {message && <Notice tone="fault">{message}</Notice>}
    </>
  );
}

/** The meter as a plain scale with the zone where speech peaks belong. */
function AlcScale({ bench: { card, over } }: { bench: BenchView }) {
  const [low, high] = card.rig.profile.alc.zone;
  const reading = over?.alcReading ?? null;
  const isStale = over !== null && over.revision.id !== card.revisions[0].id;
  return (
    <>
      <p>
        {reading === null
          ? 'No reading noted. Look at the meter on speech peaks while you make the next over, and note it when you add the recording.'
          : `${reading.toFixed(2)} of the scale on over ${over?.id}${isStale ? ', before the card changed: look again' : ''}.`}{' '}
        Speech peaks belong between {low.toFixed(2)} and {high.toFixed(2)}.
      </p>
      <Scale role="img" aria-label={`ALC scale, zone ${low} to ${high}, reading ${reading ?? 'none'}`}>
        <span className="zone" style={{ left: `${100 * low}%`, right: `${100 * (1 - high)}%` }} />
        {reading !== null && <span className="needle" style={{ left: `calc(${100 * reading}% - 1.5px)` }} />}
        {[0, 0.25, 0.5, 0.75, 1].map((at) => (
          <span key={at} className="tick mono" style={{ left: `${100 * at}%` }}>
            {at}
          </span>
        ))}
      </Scale>
      <p className="soft">Above the zone: turn the mic gain down. Below it: turn it up.</p>
    </>
  );
}
