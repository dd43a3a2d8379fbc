'use client';
/** The Bench of a station that has no card yet. */
import { Bar, ButtonLink } from '../parts/Button.tsx';
import { Page, Shell } from './Shell.tsx';

export function NoCards() {
  return (
    <Shell>
      <Page>
        <h1>Bench</h1>
        <p>
          Nothing to work on yet. Describe your radio and microphone on the Station page, then make a card: it holds the numbers of every
          dial. After that, drop a recording of one of your overs anywhere.
        </p>
        <Bar>
          <ButtonLink $primary href="/station">
            Describe the station
          </ButtonLink>
          <ButtonLink href="/cards">Make a card</ButtonLink>
        </Bar>
      </Page>
    </Shell>
  );
}
