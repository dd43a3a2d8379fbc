'use client';
/** An address that leads nowhere, or to something deleted. */
import Link from 'next/link';
import { Page, Shell } from '@/ui/shell/Shell.tsx';

export default function NotFound() {
  return (
    <Shell>
      <Page>
        <h1>Nothing here</h1>
        <p>
          This page does not exist, or what it showed was deleted. <Link href="/bench">Back to the Bench</Link>
        </p>
      </Page>
    </Shell>
  );
}
