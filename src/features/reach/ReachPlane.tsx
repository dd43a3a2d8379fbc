'use client';
/** Reach and naturalness of all cards of an operator on one plane, with the best that can be had, and any two heard. */
import { useQueries, useQuery } from '@tanstack/react-query';
import Link from 'next/link';
import { useMemo, useState } from 'react';
import styled from 'styled-components';
import { judgement, modelVoiceOf } from '@/client/useJudged.ts';
import { modelWork } from '@/client/workers/coreWork.ts';
import { comparisonWords, frontier } from '@/core/intelligibility/index.ts';
import { PATHS, RECEIVERS } from '@/core/simulate/index.ts';
import { signed } from '@/core/units/index.ts';
import type { BenchView } from '@/server/bench/bench.ts';
import type { CardView } from '@/server/cards/cards.ts';
import { Hear } from '@/ui/listen/Hear.tsx';
import { Bar } from '@/ui/parts/Button.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';
import { Progress } from '@/ui/parts/Progress.tsx';
import { Scroll, Table } from '@/ui/parts/Table.tsx';
import { TableHead } from '@/ui/parts/TableHead.tsx';
import { Shell } from '@/ui/shell/Shell.tsx';
import { type Candidate, candidatesOf, type Placed, placedOf, type SchoolStart } from './candidates.ts';
import { PlaneChart } from './PlaneChart.tsx';

const Main = styled.div`padding: 18px 20px 40px; max-width: 1180px; margin: 0 auto; h1 { margin: 0; }`;
const Columns = styled.div`display: grid; grid-template-columns: minmax(0, 1fr) 400px; gap: 24px; margin-top: 10px; @media (max-width: 900px) { grid-template-columns: minmax(0, 1fr); }`;

export function ReachPlane({ bench, cards }: { bench: BenchView; cards: readonly CardView[] }) {
  const { card } = bench;
  const over = bench.voice?.over ?? null;
  const voice = useMemo(() => modelVoiceOf(bench), [bench]);
  const { candidates, placed, error } = usePlane(bench, cards);
  const isAtWork = voice !== null && !error && (candidates.length === 0 || placed.length < candidates.length);
  return (
    <Shell sentence={<>{card.operator.name}: every card by reach and naturalness</>}>
      <Main>
        <h1>Reach and naturalness</h1>
        {!voice && (
          <p>
            <Link href={`/bench?card=${card.id}`}>{card.name}</Link> has no recording of your voice to go by; the model needs one from an
            over.
          </p>
        )}
        {voice && over && (
          <p className="soft">
            With the voice of <Link href={`/overs/${over.id}`}>over {over.id}</Link>, through a model of the radio, at one peak power.
            Reach: how many decibels weaker it may arrive than the same voice flat and uncompressed. Naturalness: how close it is to your
            own voice, of 100. Expected, not measured.
          </p>
        )}
        {error && <p role="alert">The model failed: {error}</p>}
        {isAtWork && <Progress label={`Rating ${candidates.length || ''} cards`} share={placed.length / Math.max(1, candidates.length)} />}
        {placed.length > 0 && voice && (
          <Columns>
            <div>
              <PlaneChart placed={placed} />
              <PointTable placed={placed} />
            </div>
            {candidates.length > 1 && placed.length > 1 && <Compare bench={bench} candidates={candidates} placed={placed} />}
          </Columns>
        )}
      </Main>
    </Shell>
  );
}

/** Every candidate, and those that the model has placed already. */
function usePlane(bench: BenchView, cards: readonly CardView[]) {
  const { card } = bench;
  const voice = useMemo(() => modelVoiceOf(bench), [bench]);
  const { data: starts, error: failed } = useQuery({
    queryKey: ['schools', card.rig.profile, card.mode, card.purpose],
    queryFn: async (): Promise<readonly SchoolStart[]> => modelWork().schools(card.rig.profile, card.mode, card.purpose),
  });
  const candidates = useMemo(() => (starts ? candidatesOf(bench, cards, starts) : []), [bench, cards, starts]);
  const judged = useQueries({ queries: candidates.map(({ card: each, elsewhere }) => judgement(voice, each, { elsewhere })) });
  const placed = candidates.flatMap((each, k) => {
    const { data } = judged[k];
    return data === undefined ? [] : [placedOf(each, data)];
  });
  const error = failed ?? judged.find((each) => each.error)?.error ?? null;
  return { candidates, placed, error: error?.message ?? null };
}

function PointTable({ placed }: { placed: readonly Placed[] }) {
  const best = new Set(frontier(placed.flatMap((each) => (each.point ? [{ ...each.point, key: each.key }] : []))).map(({ key }) => key));
  const sorted = [...placed].sort((a, b) => (b.point?.reachDb ?? -999) - (a.point?.reachDb ?? -999));
  return (
    <Scroll>
      <Table>
        <TableHead columns={['Card', 'what it is', { number: 'reach' }, { number: 'naturalness' }]} />
        <tbody>
          {sorted.map(({ key, name, href, what, point, why }) => (
            <tr key={key}>
              <td>
                {href ? <Link href={href}>{name}</Link> : name}
                {best.has(key) && <span className="new"> on the line</span>}
              </td>
              <td>{what}</td>
              {point ? (
                <>
                  <td className="num">
                    {signed(point.reachDb, 1)} ± {point.uncertaintyDb.toFixed(1)} dB
                  </td>
                  <td className="num">{Math.round(point.score)}</td>
                </>
              ) : (
                <td colSpan={2} className="soft">
                  {why}
                </td>
              )}
            </tr>
          ))}
        </tbody>
      </Table>
    </Scroll>
  );
}

/** Any two, in a sentence and by ear. */
function Compare({ bench, candidates, placed }: { bench: BenchView; candidates: readonly Candidate[]; placed: readonly Placed[] }) {
  const known = placed.filter(({ point }) => point !== null);
  const farthest = known.reduce<Placed | null>(
    (best, each) => ((each.point?.reachDb ?? -99) > (best?.point?.reachDb ?? -99) ? each : best),
    null,
  );
  const [a, setA] = useState<string>(`card ${bench.card.id}`);
  const [b, setB] = useState<string | null>(null);
  const [path, setPath] = useState('weak');
  const [receiver, setReceiver] = useState('good');
  const second = b ?? farthest?.key ?? known[0]?.key;
  const [first, other] = [known.find(({ key }) => key === a) ?? known[0], known.find(({ key }) => key === second) ?? known[0]];
  const voice = modelVoiceOf(bench);
  const sourceOf = (key: string) => candidates.find((each) => each.key === key) ?? candidates[0];
  if (!first?.point || !other?.point || !voice) return null;
  const render = async () => {
    const way = { path: PATHS[path].path, receiver: RECEIVERS[receiver].receiver };
    const pair = [first.key, other.key].map((key) => ({
      card: sourceOf(key).card,
      elsewhere: sourceOf(key).elsewhere,
      at: 'heard' as const,
    }));
    const { sounds, rateHz } = await modelWork().hear(voice, pair, way);
    return { before: { samples: sounds[0], rateHz }, after: { samples: sounds[1], rateHz } };
  };
  const choices = known.map(({ key, name, what }) => ({ id: key, text: name, note: what }));
  const standing = (each: Placed, letter: string) => ({
    name: `${letter} (${each.name})`,
    reachDb: each.point?.reachDb ?? null,
    uncertaintyDb: each.point?.uncertaintyDb ?? null,
    score: each.point?.score ?? 0,
  });
  return (
    <section aria-label="Compare two">
      <h2>Compare two</h2>
      <Bar>
        <Picker label="A" value={first.key} choices={choices} onChange={setA} />
        <Picker label="B" value={other.key} choices={choices} onChange={setB} />
      </Bar>
      <p aria-live="polite" style={{ margin: '10px 0' }}>
        {first.key === other.key ? 'Pick two different ones.' : comparisonWords(standing(first, 'A'), standing(other, 'B'))}
      </p>
      <Bar>
        <Picker label="Path" value={path} choices={Object.entries(PATHS).map(([id, { text }]) => ({ id, text }))} onChange={setPath} />
        <Picker
          label="Receiver"
          value={receiver}
          choices={Object.entries(RECEIVERS).map(([id, { text }]) => ({ id, text }))}
          onChange={setReceiver}
        />
      </Bar>
      <Bar>
        <Hear
          render={render}
          renderKey={JSON.stringify([first.key, other.key, path, receiver])}
          labels={{ before: 'A', after: 'B' }}
          text="Hear both"
        />
      </Bar>
    </section>
  );
}
