/** Shown at once while a page is on its way. */
import { Page, Shell } from '@/ui/shell/Shell.tsx';

export default function Loading() {
  return (
    <Shell>
      <Page aria-busy>
        <p className="soft" role="status">
          Loading ...
        </p>
      </Page>
    </Shell>
  );
}
