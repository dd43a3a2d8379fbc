'use client';
/** Two versions of a sound, level-matched, switched without a gap, blind if wanted. */
import { useEffect, useEffectEvent, useReducer, useRef, useState } from 'react';
import { ToggleButton, ToggleButtonGroup } from 'react-aria-components';
import styled from 'styled-components';
import { Player, type Sound } from '@/client/player.ts';
import { beginTest, blindStep, type Choice, drawChoice } from '@/core/playback/index.ts';
import { useKeys } from '../keys.ts';
import { Button } from '../parts/Button.tsx';
import { BlindAnswer } from './BlindAnswer.tsx';

const Switch = styled(ToggleButtonGroup)`
  display: inline-flex; border: 1px solid var(--ink); border-radius: 3px; overflow: hidden;
  button { border: 0; background: none; padding: 6px 12px; min-height: 32px; cursor: pointer; }
  button[data-selected] { background: var(--ink); color: var(--paper); }`;

type Version = 'before' | 'after';
/** X is one of the two, in a blind test. */
type Side = Version | 'x';
type State = 'silent' | 'rendering' | 'playing';

interface HearProps {
  /** Makes both versions in a worker. */
  readonly render: () => Promise<Record<Version, Sound>>;
  /** Stands for what they are made of: another key, and they are made again while playing goes on. */
  readonly renderKey: string;
  readonly labels?: Readonly<Record<Version, string>>;
  readonly text?: string;
  readonly isDisabled?: boolean;
  /** How their levels stand to each other. */
  readonly levels?: string;
  /** Another on the page has the keys. */
  readonly hasNoKeys?: boolean;
  /** Counts up when "after" is to be heard at once, by a button elsewhere. */
  readonly begin?: number;
}

const BEFORE_AFTER = { before: 'A before', after: 'B after' } as const;

export function Hear({
  render,
  renderKey,
  labels = BEFORE_AFTER,
  text = 'Hear before / after',
  levels = 'level-matched',
  isDisabled = false,
  hasNoKeys = false,
  begin = 0,
}: HearProps) {
  const [state, setState] = useState<State>('silent');
  const [side, setSide] = useState<Side>('before');
  const [error, setError] = useState<string | null>(null);
  const [isBlind, setIsBlind] = useState(false);
  const [test, answer] = useReducer(blindStep, null, () => beginTest('A'));
  const player = useRef<Player<Side> | null>(null);
  const rendered = useRef<Record<Version, Sound> | null>(null);
  const renderedKey = useRef('');
  const soundsFor = (sounds: Record<Version, Sound>, x: Choice): Record<Side, Sound> => ({
    ...sounds,
    x: sounds[x === 'A' ? 'before' : 'after'],
  });
  const listen = (next: Side) => {
    setSide(next);
    player.current?.choose(next);
  };
  const stop = () => {
    player.current?.stop();
    player.current = null;
    setIsBlind(false);
    setSide((before) => (before === 'x' ? 'before' : before));
    setState('silent');
  };
  /** X changes under the listener's ears, so it is what is heard then. */
  const setX = (x: Choice) => {
    if (player.current && rendered.current) player.current.replace(soundsFor(rendered.current, x));
    listen('x');
  };
  const beginBlind = () => {
    const x = drawChoice(Math.random());
    setIsBlind(true);
    answer({ kind: 'begin', x });
    setX(x);
  };
  const endBlind = () => {
    setIsBlind(false);
    listen('before');
  };
  const say = (said: Choice) => {
    const next = drawChoice(Math.random());
    answer({ kind: 'answer', said, next });
    setX(next);
  };
  const start = async (at: Side = side) => {
    setError(null);
    setState('rendering');
    try {
      const made = new Player<Side>(at);
      player.current = made;
      renderedKey.current = renderKey;
      rendered.current = await render();
      made.play(soundsFor(rendered.current, test.x));
      if (player.current === made) setState('playing');
      else made.stop();
    } catch {
      stop();
      setError('The recording could not be played.');
    }
  };
  const renderAgain = useEffectEvent(async (key: string) => {
    const playing = player.current;
    if (!playing || key === renderedKey.current) return;
    // What fails to render leaves the sound as it was.
    const sounds = await render().catch(() => null);
    if (!sounds || player.current !== playing) return;
    renderedKey.current = key;
    rendered.current = sounds;
    playing.replace(soundsFor(sounds, test.x));
  });
  // A dial moved while listening: render again, keep playing meanwhile.
  useEffect(() => {
    const timer = setTimeout(() => void renderAgain(renderKey), 150);
    return () => clearTimeout(timer);
  }, [renderKey]);
  const beginAfter = useEffectEvent(() => {
    listen('after');
    if (state === 'silent') void start('after');
  });
  useEffect(() => {
    if (begin > 0) beginAfter();
  }, [begin]);
  useEffect(() => () => player.current?.stop(), []);
  const isOn = state === 'playing';
  useKeys(
    hasNoKeys
      ? {}
      : {
          l: () => (state === 'silent' ? void start() : stop()),
          ...(isOn ? { a: () => listen('before'), b: () => listen('after') } : {}),
          ...(isOn && isBlind ? { x: () => listen('x') } : {}),
        },
  );
  return (
    <>
      <Button onPress={() => (state === 'silent' ? void start() : stop())} isDisabled={isDisabled}>
        {state === 'silent' ? text : state === 'rendering' ? 'Rendering ...' : 'Stop'}
      </Button>
      {isOn && (
        <Switch
          aria-label="Listen to"
          selectionMode="single"
          disallowEmptySelection
          selectedKeys={[side]}
          onSelectionChange={(keys) => listen([...keys][0] as Side)}
        >
          <ToggleButton id="before">{labels.before}</ToggleButton>
          <ToggleButton id="after">{labels.after}</ToggleButton>
          {isBlind && <ToggleButton id="x">X</ToggleButton>}
        </Switch>
      )}
      {isOn && <Button onPress={isBlind ? endBlind : beginBlind}>{isBlind ? 'End the blind test' : 'Blind test'}</Button>}
      {isOn && <span className="soft">{levels}; headphones: start low</span>}
      {isOn && isBlind && <BlindAnswer test={test} names={['A', 'B']} isOn onSay={say} />}
      {error && <span role="alert">{error}</span>}
    </>
  );
}
