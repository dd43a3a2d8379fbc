'use client';
/** One dial at a time, large enough to read from the radio: space sets the tick and goes on. */
import { useEffect, useRef, useState } from 'react';
import { Dialog, Heading, Modal, ModalOverlay } from 'react-aria-components';
import styled from 'styled-components';
import { type SheetLine, valueText } from '@/core/rig/index.ts';
import { Bar, Button } from '@/ui/parts/Button.tsx';
import type { Ticks } from './useTicks.ts';

const Overlay = styled(ModalOverlay)`position: fixed; inset: 0; background: var(--paper); z-index: 15;`;
const Whole = styled(Modal)`
  height: 100%; display: grid; place-items: center; padding: 24px; outline: none;
  > section { width: min(1080px, 100%); outline: none; }
  .count { font-size: 20px; color: var(--soft); margin: 0; }
  .menu { font-family: 'Atkinson Hyperlegible Mono Variable', ui-monospace, monospace; font-size: clamp(48px, 9vw, 104px); line-height: 1.1; margin: 0; }
  h2 { font-size: clamp(30px, 5vw, 56px); line-height: 1.15; margin: 0 0 10px; }
  .change { font-family: 'Atkinson Hyperlegible Mono Variable', ui-monospace, monospace; font-size: clamp(40px, 8vw, 92px); line-height: 1.1; margin: 0 0 14px; }
  .change .old { color: var(--soft); }
  .change .new { color: var(--signal); font-weight: 700; }
  .soft { font-size: 20px; }
  button { font-size: 18px; }`;

/** Keys of the walk; the sheet itself has the focus at first, above anything that could listen inside it. */
function useWalkKeys({ set, go }: { set: () => void; go: (step: number) => void }): void {
  const keys = (event: KeyboardEvent) => {
    if (event.key === ' ' || event.key === 'Enter') {
      // Buttons that have the focus answer for themselves.
      if (event.target instanceof HTMLButtonElement) return;
      event.preventDefault();
      set();
    } else if (event.key === 'ArrowRight' || event.key === 'n') go(1);
    else if (event.key === 'ArrowLeft' || event.key === 'p') go(-1);
  };
  const latest = useRef(keys);
  latest.current = keys;
  useEffect(() => {
    const pressed = (event: KeyboardEvent) => latest.current(event);
    document.addEventListener('keydown', pressed);
    return () => document.removeEventListener('keydown', pressed);
  }, []);
}

export function Walk({ lines, ticks, onClose }: { lines: readonly SheetLine[]; ticks: Ticks; onClose: () => void }) {
  const left = lines.filter(({ dial }) => !ticks.done.has(dial.id));
  const [at, setAt] = useState(Math.max(0, lines.indexOf(left[0])));
  const isEnd = at >= lines.length;
  const go = (step: number) => setAt(Math.min(lines.length, Math.max(0, at + step)));
  const set = () => {
    if (isEnd) return;
    ticks.set([lines[at]], true);
    go(1);
  };
  useWalkKeys({ set, go });
  return (
    <Overlay isOpen onOpenChange={(open) => !open && onClose()}>
      <Whole>
        <Dialog>
          {isEnd ? (
            <End left={left} onAgain={() => setAt(left.length === 0 ? 0 : lines.indexOf(left[0]))} onClose={onClose} />
          ) : (
            <>
              <p className="count">
                {at + 1} of {lines.length}
                {lines[at].bank ? `, ${lines[at].bank}` : ''}
                {ticks.done.has(lines[at].dial.id) ? ', done' : ''}
              </p>
              <Line line={lines[at]} />
              <Bar>
                <Button primary onPress={set}>
                  It is set (space)
                </Button>
                <Button onPress={() => go(1)}>Skip (→)</Button>
                <Button onPress={() => go(-1)} isDisabled={at === 0}>
                  Back (←)
                </Button>
                <Button onPress={onClose}>Close (Esc)</Button>
              </Bar>
            </>
          )}
        </Dialog>
      </Whole>
    </Overlay>
  );
}

function Line({ line: { dial, from, to, dead } }: { line: SheetLine }) {
  return (
    <>
      <p className="menu">{dial.menu || 'front'}</p>
      <Heading slot="title" level={2}>
        {dial.label}
      </Heading>
      <p className="change">
        <span className="old">{from === null ? '?' : valueText(dial, from)}</span> → <span className="new">{valueText(dial, to)}</span>
      </p>
      {dead && <p className="soft">No effect now: {dead.text}</p>}
    </>
  );
}

function End({ left, onAgain, onClose }: { left: readonly SheetLine[]; onAgain: () => void; onClose: () => void }) {
  const isAllSet = left.length === 0;
  return (
    <>
      <Heading slot="title" level={2}>
        {isAllSet ? 'All set' : `${left.length} left out`}
      </Heading>
      <p className="soft">
        {isAllSet
          ? 'Look at the ALC again: every change makes its reading stale. Into a dummy load, at low power.'
          : left.map(({ dial }) => dial.label).join(', ')}
      </p>
      <Bar>
        <Button onPress={onAgain}>{isAllSet ? 'From the beginning' : 'Go to the first of them'}</Button>
        <Button primary onPress={onClose}>
          Done
        </Button>
      </Bar>
    </>
  );
}
