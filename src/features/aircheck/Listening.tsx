'use client';
/** The evidence of a check: recordings of the newest over on its receivers, and the live level beside the log. */
import { useAddRecording } from '@/client/addRecording.ts';
import type { OverView } from '@/server/overs/overView.ts';
import { HeardOn } from '@/ui/measured/HeardOn.tsx';
import { LiveGrab } from '@/ui/measured/LiveGrab.tsx';
import { Button } from '@/ui/parts/Button.tsx';

interface ListeningProps {
  readonly cardId: number;
  /** The newest over as each receiver heard it. */
  readonly heard: readonly OverView[];
  readonly isGuest: boolean;
}

export function Listening({ cardId, heard, isGuest }: ListeningProps) {
  const addRecording = useAddRecording();
  return (
    <section aria-label="Receivers">
      <h2>Receivers of the newest over</h2>
      {heard.length > 0 ? (
        <HeardOn captures={heard} shownId={heard[0].capture?.id} />
      ) : (
        <p className="soft">
          {isGuest
            ? 'Nothing recorded yet. Drop what your receivers recorded, all of one over together, or listen live.'
            : 'Nothing recorded yet in this check.'}
        </p>
      )}
      <LiveGrab>
        <Button onPress={() => addRecording(cardId)}>Add recordings</Button>
      </LiveGrab>
    </section>
  );
}
