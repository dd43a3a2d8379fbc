'use client';
/** Two versions of a sound, level-matched, switched without a gap. */
import { useEffect, useRef, useState } from 'react';
import { ToggleButton, ToggleButtonGroup } from 'react-aria-components';
import styled from 'styled-components';
import { useKeys } from '@/ui/keys.ts';
import { Button } from '@/ui/parts/Button.tsx';
import { Player, type Sound } from '@/ui/player.ts';

const Switch = styled(ToggleButtonGroup)`
  display: inline-flex; border: 1px solid var(--ink); border-radius: 3px; overflow: hidden;
  button { border: 0; background: none; padding: 6px 12px; min-height: 32px; cursor: pointer; }
  button[data-selected] { background: var(--ink); color: var(--paper); }`;

type Side = 'before' | 'after';
type State = 'silent' | 'rendering' | 'playing';

interface HearProps {
  /** Makes both versions, level-matched, in a worker. */
  readonly render: () => Promise<Record<Side, Sound>>;
  /** Stands for what they are made of: another key, and they are made again while playing goes on. */
  readonly renderKey: string;
  readonly labels?: Readonly<Record<Side, string>>;
  readonly text?: string;
  readonly isDisabled?: boolean;
}

const BEFORE_AFTER = { before: 'A before', after: 'B after' } as const;

export function Hear({ render, renderKey, labels = BEFORE_AFTER, text = 'Hear before / after', isDisabled = false }: HearProps) {
  const [state, setState] = useState<State>('silent');
  const [side, setSide] = useState<Side>('before');
  const [error, setError] = useState<string | null>(null);
  const player = useRef<Player<Side> | null>(null);
  const listen = (next: Side) => {
    setSide(next);
    player.current?.choose(next);
  };
  const stop = () => {
    player.current?.stop();
    player.current = null;
    setState('silent');
  };
  const start = async () => {
    setError(null);
    setState('rendering');
    try {
      const made = new Player<Side>(side);
      player.current = made;
      made.play(await render());
      if (player.current === made) setState('playing');
      else made.stop();
    } catch {
      stop();
      setError('The recording could not be played.');
    }
  };
  // A dial moved while listening: render again, keep playing meanwhile.
  useEffect(() => {
    if (!player.current) return;
    const playing = player.current;
    const timer = setTimeout(
      () =>
        void render().then(
          (sound) => player.current === playing && playing.replace(sound),
          () => {},
        ),
      150,
    );
    return () => clearTimeout(timer);
  }, [renderKey]);
  useEffect(() => () => player.current?.stop(), []);
  const isOn = state === 'playing';
  useKeys({
    l: () => (state === 'silent' ? void start() : stop()),
    ...(isOn ? { a: () => listen('before'), b: () => listen('after') } : {}),
  });
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
        </Switch>
      )}
      {isOn && <span className="soft">level-matched; headphones: start low</span>}
      {error && <span role="alert">{error}</span>}
    </>
  );
}
