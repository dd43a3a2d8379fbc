/** The frame of every page: type, theme, styles. */
import '@fontsource-variable/atkinson-hyperlegible-next';
import '@fontsource-variable/atkinson-hyperlegible-mono';
import type { Metadata } from 'next';
import type { ReactNode } from 'react';
import { listCards } from '@/server/cards.ts';
import { loadStation } from '@/server/station.ts';
import { StyleRegistry } from '@/ui/StyleRegistry.tsx';
import { THEME_SCRIPT } from '@/ui/themeChoice.ts';
import { DropAnywhere } from './overs/DropAnywhere.tsx';

export const metadata: Metadata = { title: { default: 'Dial Tune', template: '%s - Dial Tune' } };
export const dynamic = 'force-dynamic';

export default async function Layout({ children }: { children: ReactNode }) {
  const [cards, { receivers }] = await Promise.all([listCards(), loadStation()]);
  return (
    <html lang="en" suppressHydrationWarning>
      <head>
        {/* Our own constant; it must run before the first paint. */}
        <script dangerouslySetInnerHTML={{ __html: THEME_SCRIPT }} />
      </head>
      <body>
        <StyleRegistry>
          <DropAnywhere cards={cards} receivers={receivers}>
            {children}
          </DropAnywhere>
        </StyleRegistry>
      </body>
    </html>
  );
}
