'use client';
/** The over before and after the proposed change, level-matched, switched without a gap. */
import { useEffect, useRef, useState } from 'react';
import { ToggleButton, ToggleButtonGroup } from 'react-aria-components';
import styled from 'styled-components';
import type { Card } from '@/core/station/card.ts';
import type { RigProfile } from '@/core/station/rig.ts';
import type { MeasuredOver } from '@/server/overs.ts';
import { useKeys } from '@/ui/keys.ts';
import { Button } from '@/ui/parts/Button.tsx';
import { Player, type Sound } from '@/ui/player.ts';
import { coreWork } from '@/workers/coreWork.ts';

const Switch = styled(ToggleButtonGroup)`
  display: inline-flex; border: 1px solid var(--ink); border-radius: 3px; overflow: hidden;
  button { border: 0; background: none; padding: 6px 12px; min-height: 32px; cursor: pointer; }
  button[data-selected] { background: var(--ink); color: var(--paper); }`;

type Side = 'before' | 'after';
type State = 'silent' | 'rendering' | 'playing';

export function Hear({ over, rig, heardWith, card }: { over: MeasuredOver; rig: RigProfile; heardWith: Card; card: Card }) {
  const [state, setState] = useState<State>('silent');
  const [side, setSide] = useState<Side>('before');
  const [error, setError] = useState<string | null>(null);
  const player = useRef<Player<Side> | null>(null);
  const wantedKey = JSON.stringify(card.values);
  const listen = (next: Side) => {
    setSide(next);
    player.current?.choose(next);
  };
  const render = async () => {
    const { id, bytes } = over.capture ?? { id: 0, bytes: 0 };
    const { stripActive, stripSeconds } = over.measured.detail;
    const { before, after, rateHz } = await coreWork().audition({
      captureId: id,
      bytes,
      detail: { stripActive, stripSeconds },
      rig,
      heardWith,
      card,
    });
    return { before: { samples: before, rateHz }, after: { samples: after, rateHz } } satisfies Record<Side, Sound>;
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
  // the key stands for the card's values
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
  }, [wantedKey]);
  useEffect(() => () => player.current?.stop(), []);
  const isOn = state === 'playing';
  useKeys({
    l: () => (state === 'silent' ? void start() : stop()),
    ...(isOn ? { a: () => listen('before'), b: () => listen('after') } : {}),
  });
  return (
    <>
      <Button onPress={() => (state === 'silent' ? void start() : stop())} isDisabled={!over.capture}>
        {state === 'silent' ? 'Hear before / after' : state === 'rendering' ? 'Rendering ...' : 'Stop'}
      </Button>
      {isOn && (
        <Switch
          aria-label="Listen to"
          selectionMode="single"
          disallowEmptySelection
          selectedKeys={[side]}
          onSelectionChange={(keys) => listen([...keys][0] as Side)}
        >
          <ToggleButton id="before">A before</ToggleButton>
          <ToggleButton id="after">B after</ToggleButton>
        </Switch>
      )}
      {isOn && <span className="soft">level-matched; headphones: start low</span>}
      {error && <span role="alert">{error}</span>}
    </>
  );
}
