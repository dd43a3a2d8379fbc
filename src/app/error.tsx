'use client';
/** A page that could not be loaded: what happened and what to do. */
import { Bar, Button } from '@/ui/parts/Button.tsx';
import { Page, Shell } from '@/ui/shell/Shell.tsx';

/** By the digest that the server puts on what it throws (server/requests/answer.ts). */
const WORDS: Readonly<Record<string, string>> = {
  'database-away': 'The database did not answer. It is started again by itself; try again in a few seconds.',
  'disk-full': 'The disk of the server is full. Make room, then try again.',
  conflict: 'Something was changed at the same moment. Try again.',
};

export default function ErrorPage({ error, reset }: { error: Error & { digest?: string }; reset: () => void }) {
  return (
    <Shell>
      <Page>
        <h1>This page could not be loaded</h1>
        <p>{WORDS[error.digest ?? ''] ?? 'Something went wrong on the server.'} What was saved before is kept.</p>
        <Bar>
          <Button primary onPress={reset}>
            Try again
          </Button>
        </Bar>
      </Page>
    </Shell>
  );
}
