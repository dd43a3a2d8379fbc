'use client';
/** As heard, target and prediction; the equalizer's dials in menu order with what to set them to, and why. */
import { useMemo, useState } from 'react';
import styled from 'styled-components';
import type { FitState } from '@/client/useFit.ts';
import { useSave } from '@/client/useSave.ts';
import { coreWork } from '@/client/workers/coreWork.ts';
import { type Fit, type FitAnswer, levelChangeDb, targetCurve, toneDoubtDb, toneErrorDb, voiceCurve } from '@/core/advice/index.ts';
import {
  type Card,
  type DialValue,
  type DialValues,
  effective,
  PURPOSE_LABELS,
  type RigProfile,
  responseOf,
  valueOn,
} from '@/core/rig/index.ts';
import { fixed, signed } from '@/core/units/index.ts';
import type { BenchView } from '@/server/bench/bench.ts';
import type { MeasuredOver } from '@/server/overs/overView.ts';
import { Experiment } from '@/ui/advisors/Experiment.tsx';
import { BalanceChart, type Curve } from '@/ui/charts/BalanceChart.tsx';
import { type DialRow, DialTable } from '@/ui/dials/DialTable.tsx';
import { Mistakes } from '@/ui/dials/Mistakes.tsx';
import { Hear } from '@/ui/listen/Hear.tsx';
import { Bar, Button } from '@/ui/parts/Button.tsx';
import { SaveNotice } from '@/ui/shell/SaveNotice.tsx';
import { TargetEditor } from './TargetEditor.tsx';
import { OverPicker, Top } from './VoiceStage.tsx';

const Verdict = styled.p`margin: 2px 0 6px; font-size: 14.5px; b { font-weight: 700; }`;
const Dials = styled.div`margin-top: 12px;`;

export function EqualizerStage({ bench, fit }: { bench: BenchView; fit: FitState }) {
  const { card, over } = bench;
  return (
    <>
      <Top>
        <div>
          <h1>Equalizer</h1>
          <p className="soft sub">{liveText(bench)}</p>
        </div>
        <OverPicker bench={bench} />
      </Top>
      <Mistakes rig={card.rig.profile} card={cardNow(card)} />
      {fit.kind === 'done' && over?.measured ? (
        <Proposal key={`${card.revisions[0].id}-${over.id}`} bench={bench} over={over as MeasuredOver} answer={fit.answer} />
      ) : (
        <>
          {card.rig.profile.equalizer.kind !== 'none' && <p>{waitingText(bench, fit)}</p>}
          <PlainDials bench={bench} />
        </>
      )}
      <Experiment bench={bench} />
    </>
  );
}

function waitingText({ over }: BenchView, fit: FitState): string {
  if (fit.kind === 'working') return 'Calculating the fit ...';
  if (fit.kind === 'impossible') return fit.why;
  if (!over) return 'No over with this card yet: drop a recording anywhere, and the fit appears here.';
  return over.measurement?.error ?? `Over ${over.id} is not measured yet.`;
}

/** Which equalizer works now, and why. */
function liveText({ card }: BenchView): string {
  const rig = card.rig.profile;
  const { bands, dials } = effective(rig, cardNow(card));
  const asleep = dials.find(({ dial, dead }) => dial.stage === 'equalizer' && dead && dead.kind !== 'passband')?.dead;
  if (rig.equalizer.kind === 'none') return `${rig.name} has no equalizer.`;
  if (bands.length === 0) return asleep ? `${asleep.text} ${asleep.enable}` : 'No band is active.';
  if (bands[0].bank === null) return 'All its dials are active.';
  return `Bank ${bands[0].bank} is live. ${asleep ? `${asleep.text} ${asleep.enable}` : ''}`;
}

const cardNow = (card: BenchView['card']): Card => ({ mode: card.mode, values: card.revisions[0].values });

/** The dials alone, while there is nothing to fit to. */
function PlainDials({ bench: { card } }: { bench: BenchView }) {
  const { dials } = effective(card.rig.profile, cardNow(card));
  const own = dials.filter(({ dial }) => dial.stage === 'equalizer');
  if (own.length === 0) return null;
  return <DialTable rows={own.map((state) => ({ ...state, now: state.value }))} />;
}

type Source = 'best' | 'second';

function Proposal({ bench, over, answer: { fit } }: { bench: BenchView; over: MeasuredOver; answer: FitAnswer }) {
  const { card, target } = bench;
  const rig = card.rig.profile;
  const [source, setSource] = useState<Source>('best');
  const [own, setOwn] = useState<DialValues>({});
  const { save, isSaving, refusal, forget } = useSave(bench);
  const chosen: Fit = source === 'second' && fit.runnerUp ? fit.runnerUp : fit.best;
  const now = useMemo(() => cardNow(card), [card]);
  const wanted = useMemo<Card>(() => ({ ...now, values: { ...now.values, ...chosen.values, ...own } }), [now, chosen, own]);
  const heardWith = useMemo<Card>(() => ({ mode: card.mode, values: over.revision.values }), [card.mode, over]);
  const { curves, errorDb, uncertaintyDb, alcChangeDb } = usePrediction({
    bench,
    over,
    basis: fit.basis,
    passbandHz: fit.passbandHz,
    now,
    wanted,
    heardWith,
  });

  const { dials } = effective(rig, wanted);
  const why = new Map(chosen.moves.map(({ dial, to, why: reason }) => [dial.id, { to, reason }]));
  const rows: DialRow[] = dials
    .filter(({ dial }) => dial.stage === 'equalizer')
    .map((state) => {
      const reason = why.get(state.dial.id);
      const old = valueOn(now, state.dial);
      return {
        ...state,
        now: old,
        why: state.value === old ? 'No change' : reason?.to === state.value ? reason.reason : 'Your own value',
        onChange: (value: DialValue) => {
          setOwn({ ...own, [state.dial.id]: value });
        },
      };
    });
  const changed = rig.dials.filter((dial) => valueOn(now, dial) !== valueOn(wanted, dial));
  const isOwn = Object.keys(own).length > 0;
  const take = (next: Source) => {
    setOwn({});
    setSource(next);
  };
  const put = () =>
    save(
      {
        values: Object.fromEntries(changed.map((dial) => [dial.id, valueOn(wanted, dial)])),
        reason: isOwn ? 'own values after a fit' : `fit for ${PURPOSE_LABELS[card.purpose]}`,
        why: Object.fromEntries(
          changed.map((dial) => [dial.id, why.get(dial.id)?.to === valueOn(wanted, dial) ? (why.get(dial.id)?.reason ?? '') : 'own value']),
        ),
      },
      () => setOwn({}),
    );

  return (
    <>
      <BalanceChart
        curves={curves}
        passbandHz={fit.passbandHz}
        range={[-30, 12]}
        height={232}
        label={`Tone balance of over ${over.id} against the target for ${PURPOSE_LABELS[card.purpose]}: ${fixed(fit.errorBeforeDb, 1)} dB off as the card stands, ${fixed(errorDb, 1)} dB with the values below.`}
      />
      <Verdict>
        Off target by <b>{fixed(fit.errorBeforeDb, 1)} dB</b> as the card stands,{' '}
        <b>
          {fixed(errorDb, 1)} ± {fixed(uncertaintyDb, 1)} dB
        </b>{' '}
        (expected of the next over, from {fit.overs === 1 ? 'this over' : `${fit.overs} overs`}) with{' '}
        {isOwn ? 'your values' : source === 'second' ? 'the second-best fit' : 'the fit'}; level into the ALC {signed(alcChangeDb, 1)} dB
        {Math.abs(alcChangeDb) >= 0.5 ? ', so read the ALC again' : ''}.{fit.notes.length > 0 && ` ${fit.notes.join(' ')}`}
      </Verdict>
      <Bar>
        <Button primary isDisabled={changed.length === 0 || isSaving} onPress={put}>
          {changed.length === 0 ? 'Nothing to put on the card' : 'Put these on the card'}
        </Button>
        <Hear
          render={() => auditioned(over, rig, heardWith, wanted)}
          renderKey={JSON.stringify(wanted.values)}
          isDisabled={!over.capture}
        />
        {fit.runnerUp && source === 'best' && !isOwn && (
          <Button onPress={() => take('second')}>
            Second-best fit ({fixed(fit.runnerUp.errorDb, 1)} dB off, ALC {signed(fit.runnerUp.alcChangeDb, 1)} dB)
          </Button>
        )}
        {(source === 'second' || isOwn) && <Button onPress={() => take('best')}>Back to the best fit</Button>}
        <TargetEditor key={JSON.stringify(target)} purpose={card.purpose} target={target} />
      </Bar>
      <SaveNotice refusal={refusal} forget={forget} />
      <Dials>
        <DialTable rows={rows} withMoves />
      </Dials>
    </>
  );
}

/** The over before and after the change of the equalizer. */
async function auditioned(over: MeasuredOver, rig: RigProfile, heardWith: Card, card: Card) {
  const { id, bytes } = over.capture ?? { id: 0, bytes: 0 };
  const { stripActive, stripSeconds } = over.measured.detail;
  const input = { captureId: id, bytes, detail: { stripActive, stripSeconds }, rig, heardWith, card };
  const { before, after, rateHz } = await coreWork().audition(input);
  return { before: { samples: before, rateHz }, after: { samples: after, rateHz } };
}

interface PredictionInput {
  readonly bench: BenchView;
  readonly over: MeasuredOver;
  readonly basis: FitAnswer['fit']['basis'];
  readonly passbandHz: readonly [number, number];
  readonly now: Card;
  readonly wanted: Card;
  readonly heardWith: Card;
}

/** Curves and numbers of the wanted card: cheap enough for every step of a dial. */
function usePrediction({ bench, over, basis, passbandHz, now, wanted, heardWith }: PredictionInput) {
  const { target } = bench;
  const {
    purpose,
    rig: { profile: rig },
  } = bench.card;
  return useMemo(() => {
    const heardDb = responseOf(rig, heardWith);
    const change = (card: Card) => responseOf(rig, card).map((db, i) => db - heardDb[i]);
    const voice = over.measured.detail;
    const wantedDb = change(wanted);
    const curves: Curve[] = [
      {
        name: `as heard on over ${over.id}`,
        role: 'measured',
        points: voiceCurve(
          basis,
          voice,
          heardDb.map(() => 0),
        ),
      },
      { name: `target: ${PURPOSE_LABELS[purpose]}`, role: 'target', points: targetCurve(target) },
      { name: 'with the values below', role: 'predicted', points: voiceCurve(basis, voice, wantedDb) },
    ];
    return {
      curves,
      errorDb: toneErrorDb(basis, wantedDb),
      uncertaintyDb: toneDoubtDb(basis, wantedDb),
      alcChangeDb: levelChangeDb(voice, wantedDb, passbandHz) - levelChangeDb(voice, change(now), passbandHz),
    };
  }, [rig, target, purpose, over, basis, passbandHz, now, wanted, heardWith]);
}
