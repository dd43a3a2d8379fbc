'use client';
/** Header with the sentence of what is being worked on, the places to go, theme and key list. */
import { MoonStar, Sun } from 'lucide-react';
import Link from 'next/link';
import { usePathname } from 'next/navigation';
import { type ReactNode, useEffect, useState } from 'react';
import { Button } from 'react-aria-components';
import styled from 'styled-components';
import { useKeys } from '../keys.ts';
import { Dialog } from '../parts/Dialog.tsx';
import { chooseTheme, themeNow } from '../theme/themeChoice.ts';
import { doEarly } from './early.ts';

const Header = styled.header`
  display: grid; grid-template-columns: auto minmax(0, 1fr) auto; align-items: center; column-gap: 16px; padding: 0 20px; min-height: 52px;
  border-bottom: 1px solid var(--line); background: var(--paper);
  .mark { font-weight: 700; letter-spacing: 0.01em; display: flex; gap: 9px; align-items: center; color: var(--ink); text-decoration: none; white-space: nowrap; }
  .say { color: var(--soft); min-width: 0; }
  nav { display: flex; gap: 14px; white-space: nowrap; align-items: center; justify-self: end; }
  nav a { color: var(--soft); padding: 15px 0 12px; text-decoration: none; border-bottom: 3px solid transparent; }
  nav a[aria-current] { color: var(--ink); font-weight: 700; border-color: var(--ink); }
  nav button { border: 0; background: none; min-width: 30px; height: 30px; border-radius: 3px; cursor: pointer; color: var(--soft); display: grid; place-items: center; }
  nav button[data-hovered] { background: var(--signal-wash); }
  @media (max-width: 1100px) {
    grid-template-columns: auto minmax(0, 1fr);
    .say:empty { display: none; }
    .say:not(:empty) { grid-column: 1 / -1; grid-row: 2; border-top: 1px solid var(--grid); margin: 0 -20px; padding: 6px 20px; }
  }
  @media (max-width: 560px) {
    padding: 0 12px; column-gap: 10px;
    .mark span { display: none; }
    nav { justify-self: stretch; gap: 15px; overflow-x: auto; scrollbar-width: none; }
    nav a:last-of-type { margin-right: auto; }
    nav button:last-of-type { display: none; }
    nav a { padding-block: 14px 11px; }
    .say:not(:empty) { margin: 0 -12px; padding: 6px 12px; }
  }`;

/** Where one can go, and what else belongs to each place. */
const PLACES: readonly { readonly href: string; readonly name: string; readonly also: readonly string[] }[] = [
  { href: '/tune', name: 'Tune', also: [] },
  { href: '/bench', name: 'Bench', also: [] },
  { href: '/aircheck', name: 'Air check', also: [] },
  { href: '/overs', name: 'Overs', also: ['/live', '/reports'] },
  { href: '/cards', name: 'Cards', also: [] },
  { href: '/station', name: 'Station', also: ['/testbench'] },
  { href: '/practice', name: 'Practice', also: [] },
];

const KEYS: readonly (readonly [string, string])[] = [
  ['1 to 9', 'stage of the transmit path, on the Bench'],
  ['N', 'next move'],
  ['/', 'the dial line; Up recalls, Right takes the first suggestion'],
  ['Up, Down', 'a dial one position up or down; Page Up and Page Down five'],
  ['Escape', 'give a dial its value back; close a sheet'],
  ['A, B, C, D, X', 'listening: before and after, or one of the overs'],
  ['L', 'start and stop listening'],
  ['U', 'add a recording'],
  ['C', 'new card, on the list of cards'],
  ['R', 'describe a radio, on the Station page'],
  ['W', 'walk me through, on a dial sheet; space ticks off'],
  ['?', 'this list'],
];

const KeyList = styled.dl`
  display: grid; grid-template-columns: 110px 1fr; gap: 7px 12px; margin: 12px 0 0;
  dt { font-family: 'Atkinson Hyperlegible Mono Variable', monospace; } dd { margin: 0; }`;

export function Shell({ sentence, children }: { sentence?: ReactNode; children: ReactNode }) {
  const path = usePathname();
  const [showsKeys, setShowsKeys] = useState(false);
  useKeys({ '?': () => setShowsKeys(true) });
  useEffect(doEarly, []);
  return (
    <>
      <Header className="no-print">
        <Link className="mark" href="/bench" aria-label="Dial Tune">
          <Mark />
          <span>Dial Tune</span>
        </Link>
        <div className="say">{sentence}</div>
        <nav aria-label="Places">
          {PLACES.map(({ href, name, also }) => (
            <Link key={href} href={href} aria-current={[href, ...also].some((place) => path.startsWith(place)) ? 'page' : undefined}>
              {name}
            </Link>
          ))}
          <ThemeSwitch />
          <Button aria-label="Keys" onPress={() => setShowsKeys(true)}>
            ?
          </Button>
        </nav>
      </Header>
      <main>{children}</main>
      <Dialog title="Keys" isOpen={showsKeys} onClose={() => setShowsKeys(false)}>
        <KeyList>{KEYS.flatMap(([key, what]) => [<dt key={key}>{key}</dt>, <dd key={what}>{what}</dd>])}</KeyList>
      </Dialog>
    </>
  );
}

function ThemeSwitch() {
  const [, redraw] = useState(0);
  return (
    <Button
      aria-label="Day or night"
      onPress={() => {
        chooseTheme(themeNow() === 'day' ? 'night' : 'day');
        redraw((count) => count + 1);
      }}
    >
      <Sun size={17} aria-hidden className="by-night" />
      <MoonStar size={17} aria-hidden className="by-day" />
    </Button>
  );
}

function Mark() {
  return (
    <svg width="22" height="22" viewBox="0 0 22 22" aria-hidden="true">
      <circle cx="11" cy="11" r="9.5" fill="none" stroke="currentColor" strokeWidth="1.8" />
      <path d="M11 11 L16.4 5.8" stroke="var(--signal)" strokeWidth="2.6" strokeLinecap="round" />
    </svg>
  );
}

/** The plain page under the header. */
export const Page = styled.div`
  max-width: 1480px; margin: 0 auto; padding: 16px 20px 40px;
  > p, > ul { max-width: 900px; }
  @media (max-width: 560px) { padding: 12px 12px 32px; }`;
