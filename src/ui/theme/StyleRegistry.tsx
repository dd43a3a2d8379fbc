'use client';
/** Collects styled-components' rules while the server renders, so that the first paint is styled. */
import { useServerInsertedHTML } from 'next/navigation';
import { type ReactNode, useRef, useState } from 'react';
import { ServerStyleSheet, StyleSheetManager } from 'styled-components';
import { GlobalStyle } from './theme.ts';

/** The same mark for pages that are drawn anew in the browser: nothing there, an error. */
export function StyleNonce({ nonce }: { nonce?: string }) {
  const [first] = useState(nonce);
  return <meta property="csp-nonce" nonce={first} suppressHydrationWarning />;
}

export function StyleRegistry({ nonce, children }: { nonce?: string; children: ReactNode }) {
  // The page keeps the nonce that it came with: later answers of the server have others.
  const [first] = useState(nonce);
  const [sheet] = useState(() => new ServerStyleSheet({ nonce }));
  const isMarked = useRef(false);
  useServerInsertedHTML(() => {
    const styles = sheet.getStyleElement();
    sheet.instance.clearTag();
    // Where styled-components and React Aria look for the nonce of the page's policy, also on pages that are only a shell.
    const mark = isMarked.current ? null : <meta property="csp-nonce" nonce={first} />;
    isMarked.current = true;
    return (
      <>
        {mark}
        {styles}
      </>
    );
  });
  const content = (
    <>
      <GlobalStyle />
      {children}
    </>
  );
  if (typeof window !== 'undefined') return content;
  return <StyleSheetManager sheet={sheet.instance}>{content}</StyleSheetManager>;
}
