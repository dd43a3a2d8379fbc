'use client';
/** A page that could not be made: what happened and what to do. */
import { Bar, Button } from '@/ui/parts/Button.tsx';
import { Page, Shell } from './shell/Shell.tsx';

export default function ErrorPage({ reset }: { reset: () => void }) {
  return (
    <Shell>
      <Page>
        <h1>This page could not be made</h1>
        <p>The server or its database did not answer. What was saved before is kept.</p>
        <Bar>
          <Button primary onPress={reset}>
            Try again
          </Button>
        </Bar>
      </Page>
    </Shell>
  );
}
