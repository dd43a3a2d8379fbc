'use client';
/** Recordings played in step, one heard at a time, part of them in a loop; blind if wanted. */
import { useEffect, useMemo, useReducer, useRef, useState } from 'react';
import { Player, type Sound } from '@/client/player.ts';
import { coreWork } from '@/client/workers/coreWork.ts';
import { beginTest, blindStep, type Choice, drawChoice, levelsAsTheyAre } from '@/core/playback/index.ts';
import { type Letter, type Lettered, viewOf } from './letters.ts';

/** So much is fetched and rendered at once. */
const LONGEST_S = 30;
export type Side = Letter | 'X';
type Part = readonly [fromS: number, toS: number];

interface Rendered extends Sound {
  /** What brought it to the common level. */
  readonly gain: number;
}

async function render(items: readonly Lettered[], lengthS: number): Promise<Record<Letter, Rendered>> {
  const sounds = items.map(async (item) => {
    const view = viewOf(item);
    const { id, bytes } = item.over.capture;
    if (!view) throw new Error('not audible');
    return [item.letter, await coreWork().listen(id, bytes, view, 0, lengthS)] as const;
  });
  return Object.fromEntries(await Promise.all(sounds)) as Record<Letter, Rendered>;
}

/** At one level, or each as loud as it came in: a narrow FM signal is quieter, and that is to be heard. */
function atLevels(rendered: Record<Letter, Rendered>, isMatched: boolean): Record<Letter, Sound> {
  if (isMatched) return rendered;
  const all = Object.entries(rendered) as [Letter, Rendered][];
  const factors = levelsAsTheyAre(all.map(([, { gain }]) => gain));
  const scaled = all.map(([letter, sound], k): [Letter, Sound] => [
    letter,
    { ...sound, samples: sound.samples.map((x) => factors[k] * x) },
  ]);
  return Object.fromEntries(scaled) as Record<Letter, Sound>;
}

/** The player, and what it plays. */
function usePlayer(items: readonly Lettered[], longest: number) {
  const [state, setState] = useState<'silent' | 'rendering' | 'playing'>('silent');
  const [error, setError] = useState<string | null>(null);
  const player = useRef<Player<Side> | null>(null);
  const rendered = useRef<Record<Letter, Rendered> | null>(null);
  useEffect(() => () => player.current?.stop(), []);
  const stop = () => {
    player.current?.stop();
    player.current = null;
    setState('silent');
  };
  /** X is one of the recordings; with no test it is not there. */
  const soundsWith = (sounds: Record<Letter, Sound>, x: Letter | null) =>
    ({ ...sounds, ...(x && { X: sounds[x] }) }) as Record<Side, Sound>;
  const start = async (side: Side, x: Letter | null, part: Part, isMatched: boolean) => {
    setError(null);
    setState('rendering');
    // A sound card is let in by a press only: the player is made before anything is waited for.
    const made = new Player<Side>(side);
    player.current?.stop();
    player.current = made;
    try {
      rendered.current ??= await render(items, longest);
      if (player.current !== made) return made.stop();
      made.play(soundsWith(atLevels(rendered.current, isMatched), x), part);
      setState('playing');
    } catch {
      stop();
      setError('These recordings could not be played.');
    }
  };
  const replace = (x: Letter | null, part: Part, isMatched: boolean) => {
    if (player.current && rendered.current) player.current.replace(soundsWith(atLevels(rendered.current, isMatched), x), part);
  };
  return { state, error, start, stop, replace, choose: (side: Side) => player.current?.choose(side) };
}

export function useListening(items: readonly Lettered[]) {
  const audible = useMemo(() => items.filter((item) => viewOf(item) !== null), [items]);
  const longest = Math.min(LONGEST_S, ...audible.map(({ over }) => Math.max(0.5, over.evidence.result.durationS)));
  const [part, setPart] = useState<Part>([0, Math.max(0.5, longest)]);
  const [side, setSide] = useState<Side>('A');
  const [isBlind, setIsBlind] = useState(false);
  const [isMatched, setIsMatched] = useState(true);
  const [test, answer] = useReducer(blindStep, null, () => beginTest('A'));
  const player = usePlayer(audible, longest);
  const [first, second] = audible.map(({ letter }) => letter);
  const letterOf = (choice: Choice): Letter => (choice === 'A' ? first : second);
  const choose = (next: Side) => {
    setSide(next);
    player.choose(next);
  };
  return {
    audible,
    longest,
    part,
    side,
    isBlind,
    isMatched,
    test,
    state: player.state,
    error: player.error,
    sides: (isBlind ? [first, second, 'X'] : audible.map(({ letter }) => letter)) as readonly Side[],
    choose,
    toggle: () => (player.state === 'silent' ? void player.start(side, isBlind ? letterOf(test.x) : null, part, isMatched) : player.stop()),
    changePart(next: Part) {
      setPart(next);
      player.replace(isBlind ? letterOf(test.x) : null, next, isMatched);
    },
    matchLevels(next: boolean) {
      setIsMatched(next);
      player.replace(null, part, next);
    },
    beginBlind() {
      const x = drawChoice(Math.random());
      // Levels would tell which is which.
      setIsMatched(true);
      setIsBlind(true);
      answer({ kind: 'begin', x });
      setSide('X');
      void player.start('X', letterOf(x), part, true);
    },
    endBlind() {
      setIsBlind(false);
      choose('A');
    },
    say(said: Choice) {
      const next = drawChoice(Math.random());
      answer({ kind: 'answer', said, next });
      player.replace(letterOf(next), part, true);
      choose('X');
    },
  };
}
