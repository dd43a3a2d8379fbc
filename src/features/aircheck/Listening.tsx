'use client';
/** The evidence of a check: recordings of the newest over on its receivers, and the live level beside the log. */
import { useAddFiles, useAddRecording } from '@/client/addRecording.ts';
import { useLive } from '@/client/useLive.ts';
import type { OverView } from '@/server/overs/overs.ts';
import { HeardOn } from '@/ui/measured/HeardOn.tsx';
import { LiveLevel } from '@/ui/measured/LiveLevel.tsx';
import { Bar, Button } from '@/ui/parts/Button.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';

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
      <Live>
        <Button onPress={() => addRecording(cardId)}>Add recordings</Button>
      </Live>
    </section>
  );
}

/** The sound card's level; the last seconds become a recording. */
function Live({ children }: { children: React.ReactNode }) {
  const live = useLive();
  const addFiles = useAddFiles();
  const isOn = live.state === 'on';
  const grab = async () => {
    const file = await live.grab();
    if (file) addFiles([file]);
  };
  return (
    <>
      {isOn && <LiveLevel reading={live.reading} />}
      {live.message && <Notice tone="fault">{live.message}</Notice>}
      <Bar>
        {children}
        <Button isDisabled={live.state === 'opening'} onPress={isOn ? live.stop : live.start}>
          {isOn ? 'Stop listening' : 'Live level'}
        </Button>
        {isOn && <Button onPress={() => void grab()}>Grab the last {live.grabS} s</Button>}
      </Bar>
    </>
  );
}
