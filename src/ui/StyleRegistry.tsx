'use client';
/** Collects styled-components' rules while the server renders, so that the first paint is styled. */
import { useServerInsertedHTML } from 'next/navigation';
import { type ReactNode, useState } from 'react';
import { ServerStyleSheet, StyleSheetManager } from 'styled-components';
import { GlobalStyle } from './theme.ts';

/**
 * Where styled-components and React Aria look for the nonce of the page's Content-Security-Policy. The page keeps the
 * one that it came with: later answers of the server have others.
 */
export function StyleNonce({ nonce }: { nonce?: string }) {
  const [first] = useState(nonce);
  return <meta property="csp-nonce" nonce={first} suppressHydrationWarning />;
}

export function StyleRegistry({ nonce, children }: { nonce?: string; children: ReactNode }) {
  const [sheet] = useState(() => new ServerStyleSheet({ nonce }));
  useServerInsertedHTML(() => {
    const styles = sheet.getStyleElement();
    sheet.instance.clearTag();
    return <>{styles}</>;
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
