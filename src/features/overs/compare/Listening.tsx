'use client';
/** Level-matched listening: switching without gaps, a stretch in a loop, and the blind test. */
import { useEffect, useMemo, useReducer, useRef, useState } from 'react';
import { Slider, SliderOutput, SliderThumb, SliderTrack, ToggleButton, ToggleButtonGroup } from 'react-aria-components';
import styled from 'styled-components';
import { Player, type Sound } from '@/client/player.ts';
import { coreWork } from '@/client/workers/coreWork.ts';
import { beginTest, blindStep, type Choice, drawChoice } from '@/core/playback/index.ts';
import { useKeys } from '@/ui/keys.ts';
import { BlindAnswer } from '@/ui/listen/BlindAnswer.tsx';
import { Bar, Button } from '@/ui/parts/Button.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import { type Letter, type Lettered, viewOf } from './letters.ts';

const Switch = styled(ToggleButtonGroup)`
  display: inline-flex; border: 1px solid var(--ink); border-radius: 3px; overflow: hidden;
  button { border: 0; background: none; padding: 6px 16px; min-height: 34px; cursor: pointer; font-weight: 600; }
  button[data-selected] { background: var(--ink); color: var(--paper); }`;
const LoopSlider = styled(Slider)`
  display: grid; grid-template-columns: auto 1fr auto; gap: 12px; align-items: center; max-width: 640px; margin: 8px 0;
  .track { height: 30px; width: 100%; }
  .track::before { content: ''; position: absolute; left: 0; right: 0; top: 14px; border-top: 2px solid var(--line); }
  .thumb { top: 50%; width: 16px; height: 22px; border: 2px solid var(--signal); border-radius: 3px; background: var(--sheet); cursor: ew-resize; }`;

/** So much is fetched and rendered at once. */
const LONGEST_S = 30;
type Side = Letter | 'X';

export function Listening({ items }: { items: readonly Lettered[] }) {
  const audible = useMemo(() => items.filter((item) => viewOf(item) !== null), [items]);
  const longest = Math.min(LONGEST_S, ...audible.map(({ over }) => Math.max(0.5, over.evidence.result.durationS)));
  const [stretch, setStretch] = useState<[number, number]>([0, Math.max(0.5, longest)]);
  const [side, setSide] = useState<Side>('A');
  const [state, setState] = useState<'silent' | 'rendering' | 'playing'>('silent');
  const [error, setError] = useState<string | null>(null);
  const [isBlind, setIsBlind] = useState(false);
  const [test, answer] = useReducer(blindStep, null, () => beginTest('A'));
  const player = useRef<Player<Side> | null>(null);
  const rendered = useRef<Record<Letter, Sound> | null>(null);
  useEffect(() => () => player.current?.stop(), []);

  const first = audible[0]?.letter;
  const second = audible[1]?.letter;
  const letterOf = (choice: Choice): Letter => (choice === 'A' ? first : second);
  /** X is one of the two; with no test it is not there. */
  const soundsFor = (sounds: Record<Letter, Sound>, x: Choice | null): Record<Side, Sound> =>
    ({ ...sounds, ...(x && { X: sounds[letterOf(x)] }) }) as Record<Side, Sound>;

  const stop = () => {
    player.current?.stop();
    player.current = null;
    setState('silent');
  };
  const start = async (blindX: Choice | null) => {
    setError(null);
    setState('rendering');
    // A sound card is let in by a press only: the player is made before anything is waited for.
    const made = new Player<Side>(side);
    player.current?.stop();
    player.current = made;
    try {
      rendered.current ??= Object.fromEntries(
        await Promise.all(
          audible.map(async (item) => {
            const view = viewOf(item);
            const { id, bytes } = item.over.capture;
            if (!view) throw new Error('not audible');
            return [item.letter, await coreWork().listen(id, bytes, view, 0, longest)] as const;
          }),
        ),
      ) as Record<Letter, Sound>;
      if (player.current !== made) return made.stop();
      made.play(soundsFor(rendered.current, blindX), stretch);
      setState('playing');
    } catch {
      stop();
      setError('These recordings could not be played.');
    }
  };
  const choose = (next: Side) => {
    setSide(next);
    player.current?.choose(next);
  };
  const changeStretch = (next: [number, number]) => {
    setStretch(next);
    if (player.current && rendered.current) player.current.replace(soundsFor(rendered.current, isBlind ? test.x : null), next);
  };
  const beginBlind = () => {
    const x = drawChoice(Math.random());
    setIsBlind(true);
    answer({ kind: 'begin', x });
    choose('X');
    void start(x);
  };
  const say = (said: Choice) => {
    const next = drawChoice(Math.random());
    answer({ kind: 'answer', said, next });
    if (player.current && rendered.current) player.current.replace(soundsFor(rendered.current, next), stretch);
    choose('X');
  };
  const isOn = state === 'playing';
  useKeys({
    l: () => (state === 'silent' ? void start(isBlind ? test.x : null) : stop()),
    ...(isOn ? Object.fromEntries(audible.map(({ letter }) => [letter.toLowerCase(), () => choose(letter)])) : {}),
    ...(isOn && isBlind ? { x: () => choose('X') } : {}),
  });
  if (audible.length < 2) return <p>Two recordings with something to hear are needed; curves and traces are silent.</p>;
  const sides: readonly Side[] = isBlind ? [first, second, 'X'] : audible.map(({ letter }) => letter);
  return (
    <>
      <Bar>
        <Button primary onPress={() => (state === 'silent' ? void start(isBlind ? test.x : null) : stop())}>
          {state === 'silent' ? 'Listen' : state === 'rendering' ? 'Rendering ...' : 'Stop'}
        </Button>
        <Switch
          aria-label="Heard now"
          selectionMode="single"
          disallowEmptySelection
          selectedKeys={[side]}
          onSelectionChange={(keys) => choose([...keys][0] as Side)}
        >
          {sides.map((each) => (
            <ToggleButton key={each} id={each} isDisabled={!isOn}>
              {each}
            </ToggleButton>
          ))}
        </Switch>
        {isBlind ? (
          <Button
            onPress={() => {
              setIsBlind(false);
              choose('A');
            }}
          >
            End the blind test
          </Button>
        ) : (
          <Button onPress={beginBlind}>
            Blind test {first} against {second}
          </Button>
        )}
        <span className="soft">level-matched, looped; headphones: start low. Keys: L, {sides.join(', ')}</span>
      </Bar>
      <LoopSlider
        aria-label="Part that is looped"
        minValue={0}
        maxValue={Number(longest.toFixed(1))}
        step={0.1}
        value={stretch}
        onChange={(value) => changeStretch(value as [number, number])}
      >
        <span className="soft">loop</span>
        <SliderTrack className="track">
          <SliderThumb index={0} className="thumb" aria-label="Loop starts" />
          <SliderThumb index={1} className="thumb" aria-label="Loop ends" />
        </SliderTrack>
        <SliderOutput className="mono">{`${stretch[0].toFixed(1)}–${stretch[1].toFixed(1)} s`}</SliderOutput>
      </LoopSlider>
      {isBlind && <BlindAnswer test={test} names={[first, second]} isOn={isOn} onSay={say} />}
      {error && <Notice tone="fault">{error}</Notice>}
    </>
  );
}
