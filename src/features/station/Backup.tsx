'use client';
/** The whole station as one archive, out and in. */
import { useRouter } from 'next/navigation';
import { useRef, useState, useTransition } from 'react';
import { FileTrigger } from 'react-aria-components';
import { asked } from '@/client/asked.ts';
import { bytes } from '@/core/units/index.ts';
import { emptyStation } from '@/server/demo/actions.ts';
import { Bar, Button, FileLink } from '@/ui/parts/Button.tsx';
import { Dialog } from '@/ui/parts/Dialog.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import { Progress } from '@/ui/parts/Progress.tsx';

type Import =
  | { readonly kind: 'asking'; readonly file: File }
  | { readonly kind: 'sending'; readonly share: number }
  | { readonly kind: 'done'; readonly text: string }
  | { readonly kind: 'refused'; readonly text: string };

export function Backup() {
  const router = useRouter();
  const [state, setState] = useState<Import | null>(null);
  const request = useRef<XMLHttpRequest>(undefined);
  const send = (file: File) => {
    setState({ kind: 'sending', share: 0 });
    // The one way in a browser to send a large file and be told how far it is.
    const sending = new XMLHttpRequest();
    request.current = sending;
    const refuse = (text: string) => setState({ kind: 'refused', text });
    sending.upload.onprogress = ({ loaded, total }) => setState({ kind: 'sending', share: loaded / total });
    sending.onerror = () =>
      refuse('The connection broke off. An archive is taken whole or not at all: reload this page to see which station is here.');
    sending.onabort = () => refuse('Cancelled. Nothing was changed.');
    sending.onload = () => {
      const answer = readAnswer(sending.responseText);
      if (sending.status !== 200) return refuse(answer.message ?? 'The server could not take it. Nothing was changed.');
      setState({ kind: 'done', text: `The station is the one of the archive now: ${answer.cards} cards, ${answer.overs} overs.` });
      router.refresh();
    };
    sending.open('POST', '/api/station');
    sending.setRequestHeader('x-dialtune-import', 'replace');
    sending.send(file);
  };
  return (
    <section aria-label="Backup and move">
      <h2 style={{ marginTop: 16 }}>Backup and move</h2>
      <p className="soft">
        One archive with everything: JSON, CSV and the recordings as WAV. Keep it as a backup, or import it on another machine.
      </p>
      <Bar>
        <FileLink href="/api/station">Export the station</FileLink>
        <FileTrigger acceptedFileTypes={['.zip']} onSelect={(files) => files?.[0] && setState({ kind: 'asking', file: files[0] })}>
          <Button isDisabled={state?.kind === 'sending'}>Import a station</Button>
        </FileTrigger>
        <EmptyStation />
      </Bar>
      {state?.kind === 'sending' && (
        <>
          <Progress label={state.share < 1 ? 'sending' : 'checking and putting it in place'} share={state.share} />
          <Button onPress={() => request.current?.abort()}>Cancel</Button>
        </>
      )}
      {state?.kind === 'done' && <Notice>{state.text}</Notice>}
      {state?.kind === 'refused' && <Notice tone="fault">{state.text}</Notice>}
      {state?.kind === 'asking' && (
        <Dialog title="Import a station" isOpen onClose={() => setState(null)}>
          <p>
            {state.file.name} ({bytes(state.file.size)}) takes the place of everything that is here now: operators, rigs, cards, overs and
            recordings. Export first if you want to keep them.
          </p>
          <Bar>
            <FileLink href="/api/station">Export what is here</FileLink>
            <Button primary onPress={() => send(state.file)}>
              Replace the station
            </Button>
            <Button onPress={() => setState(null)}>Cancel</Button>
          </Bar>
        </Dialog>
      )}
    </section>
  );
}

function readAnswer(text: string): { message?: string; cards?: number; overs?: number } {
  try {
    return JSON.parse(text);
  } catch {
    return {};
  }
}

/** Everything away, to begin with a station of one's own. */
function EmptyStation() {
  const router = useRouter();
  const [isAsking, setIsAsking] = useState(false);
  const [message, setMessage] = useState<string | null>(null);
  const [isBusy, start] = useTransition();
  return (
    <>
      <Button onPress={() => setIsAsking(true)}>Empty the station</Button>
      <Dialog title="Empty the station" isOpen={isAsking} onClose={() => setIsAsking(false)}>
        <p>Deletes every operator, radio, microphone, card, over and recording on this machine. Export first if you want to keep them.</p>
        {message && <Notice tone="fault">{message}</Notice>}
        <Bar>
          <FileLink href="/api/station">Export what is here</FileLink>
          <Button
            primary
            isDisabled={isBusy}
            onPress={() =>
              start(async () => {
                const answer = await asked(emptyStation({}));
                if (answer.ok) router.push('/welcome');
                else setMessage(answer.message);
              })
            }
          >
            Delete everything
          </Button>
          <Button onPress={() => setIsAsking(false)}>Cancel</Button>
        </Bar>
      </Dialog>
    </>
  );
}
