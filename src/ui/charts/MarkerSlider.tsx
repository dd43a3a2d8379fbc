'use client';
/** A vertical line over a chart that is moved with the mouse or the arrow keys. */
import type { KeyboardEvent } from 'react';
import { Slider, SliderThumb, SliderTrack } from 'react-aria-components';
import styled from 'styled-components';
import { steppedBy } from '../steps.ts';
import { PLOT } from './SpectrumChart.tsx';

/** The track sets its own position inline; only its style property can say otherwise. */
const OVER_PLOT = {
  position: 'absolute',
  left: PLOT.left,
  right: PLOT.right,
  top: PLOT.top,
  bottom: PLOT.bottom,
  cursor: 'ew-resize',
} as const;
const Line = styled(SliderThumb)`
  top: 50%; width: 13px; height: 100%; border-radius: 3px; cursor: ew-resize;
  &::before { content: ''; position: absolute; left: 5px; top: 0; bottom: 0; border-left: 2px dashed var(--signal); }
  .text { position: absolute; left: 12px; bottom: 2px; white-space: nowrap; color: var(--signal); font-size: 13px; background: var(--sheet); padding: 0 3px; border-radius: 2px; }
  &[data-dragging]::before { border-left-style: solid; }`;

/** @param step of the mouse, in the chart's unit; arrow keys move by 10, Page Up and Page Down by 100 */
export function MarkerSlider({
  label,
  value,
  range,
  step,
  onChange,
}: {
  label: string;
  value: number;
  range: readonly [number, number];
  step: number;
  onChange: (value: number) => void;
}) {
  // The slider's own keys move by its step and by a tenth of its range; here they mean hertz.
  const byKey = (event: KeyboardEvent) => {
    const moved = steppedBy(event.key, value, range);
    if (moved === null) return;
    event.preventDefault();
    event.stopPropagation();
    onChange(moved);
  };
  return (
    // The slider inside is what has the focus; its keys are caught on their way to it.
    <div onKeyDownCapture={byKey}>
      <Slider
        aria-label={label}
        minValue={range[0]}
        maxValue={range[1]}
        step={step}
        value={Math.min(range[1], Math.max(range[0], value))}
        onChange={onChange}
        style={{ position: 'absolute', inset: 0 }}
      >
        <SliderTrack style={OVER_PLOT}>
          <Line>
            <span className="text">{label}</span>
          </Line>
        </SliderTrack>
      </Slider>
    </div>
  );
}
