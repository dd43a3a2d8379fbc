'use client';
/** Colours and type as CSS variables: paper and ink by day, the same character by night. */
import { createGlobalStyle } from 'styled-components';

const DAY = `
  --paper: #f5f2ea; --sheet: #fffdf8; --ink: #1e2529; --soft: #565f64; --line: #d8d1c2; --grid: #e7e0d2;
  --signal: #0b6670; --signal-wash: #e2efee; --band: #eef4f0; --target: #8a5a00; --watch: #8f5a00; --fault: #a8321f; --ok: #467432;
  color-scheme: light;`;
const NIGHT = `
  --paper: #171b1d; --sheet: #1f2427; --ink: #e9e4d8; --soft: #a9b0b1; --line: #3c4446; --grid: #2b3235;
  --signal: #6cc3cb; --signal-wash: #21383b; --band: #1d2a2b; --target: #dcae5a; --watch: #e2a94e; --fault: #f08c78; --ok: #94c47e;
  color-scheme: dark;`;

export const GlobalStyle = createGlobalStyle`
  :root { ${DAY} }
  @media (prefers-color-scheme: dark) { :root:not([data-theme='day']) { ${NIGHT} } }
  :root[data-theme='night'] { ${NIGHT} }
  *, *::before, *::after { box-sizing: border-box; }
  html { background: var(--paper); }
  body {
    margin: 0; background: var(--paper); color: var(--ink);
    font: 15px/1.4 'Atkinson Hyperlegible Next Variable', system-ui, sans-serif;
  }
  h1 { font-size: 20px; line-height: 1.25; margin: 0 0 2px; }
  h2 { font-size: 16px; line-height: 1.3; margin: 0 0 6px; }
  p { margin: 0 0 8px; }
  a { color: var(--signal); text-underline-offset: 3px; }
  button, input, select, textarea { font: inherit; color: inherit; }
  :focus-visible, [data-focus-visible] { outline: 3px solid var(--signal); outline-offset: 2px; }
  .mono { font-family: 'Atkinson Hyperlegible Mono Variable', ui-monospace, monospace; font-variant-numeric: tabular-nums; }
  .soft { color: var(--soft); }
  .by-night { display: none; }
  :root[data-theme='night'] .by-night { display: block; }
  :root[data-theme='night'] .by-day { display: none; }
  @media (prefers-color-scheme: dark) { :root:not([data-theme='day']) .by-night { display: block; } :root:not([data-theme='day']) .by-day { display: none; } }
  .unseen { position: absolute; width: 1px; height: 1px; overflow: hidden; clip-path: inset(50%); white-space: nowrap; }
  @media (prefers-reduced-motion: reduce) { *, *::before, *::after { animation: none !important; transition: none !important; } }
  @media print {
    :root { ${DAY} }
    body, html { background: #fff; }
    .no-print { display: none !important; }
  }
`;
