'use client';
/** A spectrogram of each over, in one ramp from paper to ink. */
import { useEffect, useRef, useState } from 'react';
import styled from 'styled-components';
import { coreWork } from '@/client/workers/coreWork.ts';
import type { Spectrogram } from '@/core/dsp/index.ts';
import { duration, fixed } from '@/core/units/index.ts';
import { type Lettered, viewOf } from './letters.ts';

const Figure = styled.figure`
  margin: 0 0 12px; display: grid; grid-template-columns: 64px 1fr; gap: 0 6px;
  .scale { display: flex; flex-direction: column; justify-content: space-between; text-align: right; font-size: 12.5px; color: var(--soft); }
  canvas { width: 100%; height: 130px; image-rendering: auto; border: 1px solid var(--line); }
  figcaption { grid-column: 2; font-size: 13px; color: var(--soft); }`;

const COLUMNS = 700;
/** From the strongest down, in half decibels, the ramp reaches paper. */
const RANGE_STEPS = 130;

export function Spectrograms({ items }: { items: readonly Lettered[] }) {
  return (
    <>
      {items.map((item) => (
        <One key={item.over.id} item={item} />
      ))}
    </>
  );
}

function One({ item }: { item: Lettered }) {
  const [picture, setPicture] = useState<Spectrogram | null>(null);
  const [error, setError] = useState<string | null>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const view = viewOf(item);
  const viewKey = JSON.stringify(view);
  const { id, bytes } = item.over.capture;
  useEffect(() => {
    const wanted = JSON.parse(viewKey);
    if (!wanted) return;
    let isCurrent = true;
    coreWork()
      .look(id, bytes, wanted, COLUMNS)
      .then(
        (made) => isCurrent && setPicture(made),
        () => isCurrent && setError('This recording could not be drawn.'),
      );
    return () => {
      isCurrent = false;
    };
  }, [id, bytes, viewKey]);
  useEffect(() => {
    if (!picture || !canvas.current) return;
    const paint = () => canvas.current && draw(canvas.current, picture);
    paint();
    const themed = new MutationObserver(paint);
    themed.observe(document.documentElement, { attributes: true, attributeFilter: ['data-theme'] });
    return () => themed.disconnect();
  }, [picture]);
  if (!view) return <p className="soft">{item.letter} is a curve or a trace: it has no spectrogram.</p>;
  const low = picture?.lowHz ?? 0;
  const high = picture?.highHz ?? 4000;
  const label = `Spectrogram of ${item.letter}, ${fixed(low / 1000, 1)} to ${fixed(high / 1000, 1)} kHz${picture ? `, ${duration(picture.seconds)}` : ''}`;
  return (
    <Figure>
      <div className="scale mono" aria-hidden>
        <span>{fixed(high / 1000, 1)} kHz</span>
        <span>
          <strong>{item.letter}</strong>
        </span>
        <span>{fixed(low / 1000, 1)}</span>
      </div>
      <canvas ref={canvas} width={COLUMNS} height={260} role="img" aria-label={label} />
      <figcaption>
        {error ?? (picture ? `${duration(picture.seconds)}, strongest in ink, ${RANGE_STEPS / 2} dB down is paper` : 'Drawing ...')}
      </figcaption>
    </Figure>
  );
}

const rgb = (name: string): [number, number, number] => {
  const text = getComputedStyle(document.documentElement).getPropertyValue(name).trim();
  const value = Number.parseInt(text.slice(1), 16);
  return [(value >> 16) & 255, (value >> 8) & 255, value & 255];
};

function draw(canvas: HTMLCanvasElement, { columns, rows, levels }: Spectrogram): void {
  const context = canvas.getContext('2d');
  if (!context) return;
  const [paper, ink] = [rgb('--sheet'), rgb('--ink')];
  const small = new OffscreenCanvas(columns, rows);
  const pixels = new ImageData(columns, rows);
  for (let column = 0; column < columns; column++) {
    for (let row = 0; row < rows; row++) {
      const share = Math.max(0, 1 - levels[column * rows + row] / RANGE_STEPS);
      const at = 4 * ((rows - 1 - row) * columns + column);
      for (let c = 0; c < 3; c++) pixels.data[at + c] = paper[c] + (ink[c] - paper[c]) * share;
      pixels.data[at + 3] = 255;
    }
  }
  small.getContext('2d')?.putImageData(pixels, 0, 0);
  context.imageSmoothingEnabled = true;
  context.drawImage(small, 0, 0, canvas.width, canvas.height);
}
