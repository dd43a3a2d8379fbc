'use client';
/** FM: the card's width and the other one through a repeater, heard with the loss left in. */
import { useState } from 'react';
import { elsewhereOf, modelVoiceOf } from '@/client/useJudged.ts';
import { modelWork } from '@/client/workers/coreWork.ts';
import { fmWidthOn } from '@/core/advice/index.ts';
import { type FmWidth, FULL_DEVIATION_HZ, heardReFullDb } from '@/core/measure/index.ts';
import { type Card, dialInRole, positionsOf, valueText } from '@/core/rig/index.ts';
import { PATHS, REPEATERS } from '@/core/simulate/index.ts';
import { signed } from '@/core/units/index.ts';
import type { BenchView } from '@/server/bench/bench.ts';
import { Hear } from '../listen/Hear.tsx';
import { Bar } from '../parts/Button.tsx';
import { Picker } from '../parts/Picker.tsx';

const WIDTHS: readonly FmWidth[] = ['wide', 'narrow'];
/** Those of the ionosphere are not for FM. */
const FM_PATHS = ['clear', 'fair', 'weak', 'static'];

/** Nothing where the radio has no width to choose, or no voice was recorded. */
export function FmWidths({ bench }: { bench: BenchView }) {
  const { card } = bench;
  const [repeater, setRepeater] = useState<FmWidth>('wide');
  const [path, setPath] = useState('clear');
  const voice = modelVoiceOf(bench);
  const rig = card.rig.profile;
  const dial = dialInRole(rig, 'fm-width', card.mode);
  const now: Card = { mode: card.mode, values: card.revisions[0].values };
  const cards = dial
    ? positionsOf(dial.scale).map((value) => ({ value, card: { ...now, values: { ...now.values, [dial.id]: value } } }))
    : [];
  const found = WIDTHS.flatMap((width) => cards.filter((each) => fmWidthOn(rig, each.card) === width).slice(0, 1));
  if (!dial || !voice || found.length < 2) return null;
  const [wide, narrow] = found;
  const elsewhere = elsewhereOf(bench, card);
  const render = async () => {
    const both = found.map((each) => ({ card: each.card, elsewhere, at: 'heard' as const }));
    const { sounds, rateHz } = await modelWork().hear(voice, both, { path: PATHS[path].path, receiver: REPEATERS[repeater] }, true);
    return { before: { samples: sounds[0], rateHz }, after: { samples: sounds[1], rateHz } };
  };
  const loss = (width: FmWidth) => `${signed(heardReFullDb(FULL_DEVIATION_HZ[width], repeater), 0)} dB`;
  return (
    <>
      <h3>Through a repeater</h3>
      <p className="soft">
        At full deviation {valueText(dial, wide.value)} comes out at {loss('wide')} and {valueText(dial, narrow.value)} at {loss('narrow')}{' '}
        against its other users. The loss is left in: it sounds like low power, and is not.
      </p>
      <Bar style={{ alignItems: 'end' }}>
        <Picker
          label="Repeater"
          value={repeater}
          choices={WIDTHS.map((id) => ({ id, text: `${id} channel` }))}
          onChange={(id) => setRepeater(id === 'narrow' ? 'narrow' : 'wide')}
        />
        <Picker label="Path" value={path} choices={FM_PATHS.map((id) => ({ id, text: PATHS[id].text }))} onChange={setPath} />
        <Hear
          render={render}
          renderKey={JSON.stringify([now.values, repeater, path])}
          labels={{ before: `A ${valueText(dial, wide.value)}`, after: `B ${valueText(dial, narrow.value)}` }}
          text="Hear both"
          levels="at their own levels"
          hasNoKeys
        />
      </Bar>
    </>
  );
}
