'use client';
/** Listening, at one level or as it came in: switching without gaps, a part in a loop, and the blind test. */
import { Slider, SliderOutput, SliderThumb, SliderTrack, ToggleButton, ToggleButtonGroup } from 'react-aria-components';
import styled from 'styled-components';
import { useKeys } from '@/ui/keys.ts';
import { BlindAnswer } from '@/ui/listen/BlindAnswer.tsx';
import { Bar, Button } from '@/ui/parts/Button.tsx';
import { Check } from '@/ui/parts/Check.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import type { Lettered } from './letters.ts';
import { type Side, useListening } from './useListening.ts';

const Switch = styled(ToggleButtonGroup)`
  display: inline-flex; border: 1px solid var(--ink); border-radius: 3px; overflow: hidden;
  button { border: 0; background: none; padding: 6px 16px; min-height: 34px; cursor: pointer; font-weight: 600; }
  button[data-selected] { background: var(--ink); color: var(--paper); }`;
const LoopSlider = styled(Slider)`
  display: grid; grid-template-columns: auto 1fr auto; gap: 12px; align-items: center; max-width: 640px; margin: 8px 0;
  .track { height: 30px; width: 100%; }
  .track::before { content: ''; position: absolute; left: 0; right: 0; top: 14px; border-top: 2px solid var(--line); }
  .thumb { top: 50%; width: 16px; height: 22px; border: 2px solid var(--signal); border-radius: 3px; background: var(--sheet); cursor: ew-resize; }`;

export function Listening({ items }: { items: readonly Lettered[] }) {
  const heard = useListening(items);
  const { audible, sides, state, isBlind } = heard;
  const isOn = state === 'playing';
  useKeys({
    l: heard.toggle,
    ...(isOn ? Object.fromEntries(audible.map(({ letter }) => [letter.toLowerCase(), () => heard.choose(letter)])) : {}),
    ...(isOn && isBlind ? { x: () => heard.choose('X') } : {}),
  });
  if (audible.length < 2) return <p>Two recordings with something to hear are needed; curves and traces are silent.</p>;
  const [first, second] = audible.map(({ letter }) => letter);
  return (
    <>
      <Bar>
        <Button primary onPress={heard.toggle}>
          {state === 'silent' ? 'Listen' : state === 'rendering' ? 'Rendering ...' : 'Stop'}
        </Button>
        <Switch
          aria-label="Heard now"
          selectionMode="single"
          disallowEmptySelection
          selectedKeys={[heard.side]}
          onSelectionChange={(keys) => heard.choose([...keys][0] as Side)}
        >
          {sides.map((each) => (
            <ToggleButton key={each} id={each} isDisabled={!isOn}>
              {each}
            </ToggleButton>
          ))}
        </Switch>
        <Button onPress={isBlind ? heard.endBlind : heard.beginBlind}>
          {isBlind ? 'End the blind test' : `Blind test ${first} against ${second}`}
        </Button>
        <Check isSelected={heard.isMatched} isDisabled={isBlind} onChange={heard.matchLevels}>
          levels matched
        </Check>
        <span className="soft">
          {heard.isMatched ? 'at one level' : 'as loud as they came in'}, looped; headphones: start low. Keys: L, {sides.join(', ')}
        </span>
      </Bar>
      <Loop longest={heard.longest} part={heard.part} onChange={heard.changePart} />
      {isBlind && <BlindAnswer test={heard.test} names={[first, second]} isOn={isOn} onSay={heard.say} />}
      {heard.error && <Notice tone="fault">{heard.error}</Notice>}
    </>
  );
}

interface LoopProps {
  readonly longest: number;
  readonly part: readonly [number, number];
  readonly onChange: (part: [number, number]) => void;
}

function Loop({ longest, part, onChange }: LoopProps) {
  return (
    <LoopSlider
      aria-label="Part that is looped"
      minValue={0}
      maxValue={Number(longest.toFixed(1))}
      step={0.1}
      value={[...part]}
      onChange={(value) => onChange(value as [number, number])}
    >
      <span className="soft">loop</span>
      <SliderTrack className="track">
        <SliderThumb index={0} className="thumb" aria-label="Loop starts" />
        <SliderThumb index={1} className="thumb" aria-label="Loop ends" />
      </SliderTrack>
      <SliderOutput className="mono">{`${part[0].toFixed(1)}–${part[1].toFixed(1)} s`}</SliderOutput>
    </LoopSlider>
  );
}
