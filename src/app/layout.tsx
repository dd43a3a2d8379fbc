/** The frame of every page: type, theme, styles. */
import '@fontsource-variable/atkinson-hyperlegible-next';
import '@fontsource-variable/atkinson-hyperlegible-mono';
import type { Metadata } from 'next';
import type { ReactNode } from 'react';
import { StyleRegistry } from '@/ui/StyleRegistry.tsx';
import { THEME_SCRIPT } from '@/ui/themeChoice.ts';
import { DropAnywhere } from './overs/DropAnywhere.tsx';

export const metadata: Metadata = { title: { default: 'Dial Tune', template: '%s - Dial Tune' } };
export const dynamic = 'force-dynamic';

export default function Layout({ children }: { children: ReactNode }) {
  return (
    <html lang="en" suppressHydrationWarning>
      <head>
        {/* Our own constant; it must run before the first paint. */}
        <script dangerouslySetInnerHTML={{ __html: THEME_SCRIPT }} />
      </head>
      <body>
        <StyleRegistry>
          <DropAnywhere>{children}</DropAnywhere>
        </StyleRegistry>
      </body>
    </html>
  );
}
