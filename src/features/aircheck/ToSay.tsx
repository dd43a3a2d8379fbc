'use client';
/** The advice to the other station, in words to be spoken. */
import { useMemo } from 'react';
import styled from 'styled-components';
import { useFit } from '@/client/useFit.ts';
import { type AirCheck, adviceToSay } from '@/core/advice/index.ts';
import { decibels } from '@/core/units/index.ts';
import type { BenchView } from '@/server/bench/bench.ts';

const Words = styled.ul`list-style: none; margin: 0; padding: 0; li { font-size: 18px; line-height: 1.35; font-weight: 600; margin: 0 0 7px; }`;

export function ToSay({ bench, check }: { bench: BenchView; check: AirCheck }) {
  const fit = useFit(bench);
  const { card, over } = bench;
  const fitted = fit.kind === 'done' ? fit.answer.fit : null;
  const words = useMemo(() => {
    const counting = check.steps.filter(({ line }) => !line.isUndone);
    const reading = counting.findLast((step) => step.reading?.alc !== undefined)?.reading?.alc;
    return adviceToSay({
      rig: card.rig.profile,
      mode: card.mode,
      moves: fitted ? fitted.best.moves : null,
      errorDb: fitted ? fitted.errorBeforeDb : null,
      findings: over?.evidence?.result.findings ?? [],
      told: new Set(counting.flatMap(({ moves }) => moves.map(({ dial }) => dial.id))),
      alc: reading === undefined ? null : { reading, isStale: (check.movedSinceAlc ?? 0) > 0 },
    });
  }, [card, over, fitted, check]);
  return (
    <div aria-live="polite">
      <h2>Say to them</h2>
      <Words aria-label="To be spoken">
        {words.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </Words>
      {fit.kind === 'working' && <p className="soft">Calculating the tone ...</p>}
      {fit.kind === 'impossible' && <p className="soft">{fit.why}</p>}
      {fitted && (
        <p className="soft">
          Off target {decibels(fitted.errorBeforeDb, 1)} as heard; about {decibels(fitted.best.errorDb, 1)} after it.
        </p>
      )}
    </div>
  );
}
