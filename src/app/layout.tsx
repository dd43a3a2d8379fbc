/** The frame of every page: type, theme, styles. */
import { distanceUnit } from '@/server/requests/preferences.ts';
import { DistanceContext } from '@/ui/distance.ts';
import '@fontsource-variable/atkinson-hyperlegible-next';
import '@fontsource-variable/atkinson-hyperlegible-mono';
import type { Metadata } from 'next';
import { headers } from 'next/headers';
import type { ReactNode } from 'react';
import { QueryProvider } from '@/client/QueryProvider.tsx';
import { DropAnywhere } from '@/features/overs/DropAnywhere.tsx';
import { EARLY_SCRIPT } from '@/ui/shell/early.ts';
import { StyleNonce, StyleRegistry } from '@/ui/theme/StyleRegistry.tsx';
import { THEME_SCRIPT } from '@/ui/theme/themeChoice.ts';

export const metadata: Metadata = { title: { default: 'Dial Tune', template: '%s - Dial Tune' } };
export const dynamic = 'force-dynamic';

export default async function Layout({ children }: { children: ReactNode }) {
  const nonce = (await headers()).get('x-nonce') ?? undefined;
  return (
    <html lang="en" suppressHydrationWarning>
      <head>
        <StyleNonce nonce={nonce} />
        {/* Our own constants; they must run before the first paint. */}
        <script nonce={nonce} suppressHydrationWarning dangerouslySetInnerHTML={{ __html: THEME_SCRIPT + EARLY_SCRIPT }} />
      </head>
      <body>
        <StyleRegistry nonce={nonce}>
          <DistanceContext value={await distanceUnit()}>
            <QueryProvider>
              <DropAnywhere>{children}</DropAnywhere>
            </QueryProvider>
          </DistanceContext>
        </StyleRegistry>
      </body>
    </html>
  );
}
