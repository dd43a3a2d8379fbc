'use client';
/** Takes recordings dropped anywhere on a page, or chosen from disk, asks what they are, and brings them in. */
import { useRouter } from 'next/navigation';
import { type ReactNode, useEffect, useRef, useState } from 'react';
import styled from 'styled-components';
import { AddFiles, AddRecording } from '@/client/addRecording.ts';
import { rememberedCard } from '@/client/workingCard.ts';
import { useKeys } from '@/ui/keys.ts';
import { AddOvers } from './AddOvers.tsx';

const Veil = styled.div`
  position: fixed; inset: 12px; border: 3px dashed var(--signal); border-radius: 6px; background: var(--signal-wash); opacity: 0.94;
  display: grid; place-items: center; font-size: 20px; font-weight: 700; z-index: 20; pointer-events: none;`;

/** Files dropped anywhere in the window. @returns whether some are held over it */
function useFileDrop(onDrop: (files: readonly File[]) => void): boolean {
  const [isOver, setIsOver] = useState(false);
  const latest = useRef(onDrop);
  latest.current = onDrop;
  useEffect(() => {
    const holdsFiles = (event: DragEvent) => event.dataTransfer?.types.includes('Files') ?? false;
    const over = (event: DragEvent) => {
      if (!holdsFiles(event)) return;
      event.preventDefault();
      setIsOver(true);
    };
    const left = (event: DragEvent) => {
      if (event.relatedTarget === null) setIsOver(false);
    };
    const dropped = (event: DragEvent) => {
      if (!holdsFiles(event)) return;
      event.preventDefault();
      setIsOver(false);
      latest.current([...(event.dataTransfer?.files ?? [])]);
    };
    window.addEventListener('dragover', over);
    window.addEventListener('dragleave', left);
    window.addEventListener('drop', dropped);
    return () => {
      window.removeEventListener('dragover', over);
      window.removeEventListener('dragleave', left);
      window.removeEventListener('drop', dropped);
    };
  }, []);
  return isOver;
}

export function DropAnywhere({ children }: { children: ReactNode }) {
  const router = useRouter();
  const chooser = useRef<HTMLInputElement>(null);
  const [files, setFiles] = useState<readonly File[]>([]);
  const [cardId, setCardId] = useState<number | undefined>();
  const choose = (wanted?: number) => {
    setCardId(wanted ?? cardOnPage());
    chooser.current?.click();
  };
  useKeys({ u: () => choose() });
  const isOver = useFileDrop((dropped) => {
    setCardId(cardOnPage());
    setFiles(dropped);
  });
  return (
    <AddRecording.Provider value={choose}>
      <AddFiles.Provider value={setFiles}>{children}</AddFiles.Provider>
      <input
        ref={chooser}
        type="file"
        multiple
        hidden
        aria-label="Recordings"
        accept=".wav,.sigmf-meta,.sigmf-data,.csv,.txt,audio/*"
        onChange={(event) => {
          setCardId((id) => id ?? cardOnPage());
          setFiles([...(event.target.files ?? [])]);
          event.target.value = '';
        }}
      />
      {isOver && <Veil>Drop recordings, I/Q files, curves or traces here</Veil>}
      {files.length > 0 && (
        <AddOvers
          files={files}
          cardId={cardId}
          onClose={() => {
            setFiles([]);
            setCardId(undefined);
            router.refresh();
          }}
        />
      )}
    </AddRecording.Provider>
  );
}

/** The card that the page in view is about, read off its address; else the one worked on last. */
function cardOnPage(): number | undefined {
  const { pathname, searchParams } = new URL(window.location.href);
  const id =
    /^\/cards\/(\d+)/.exec(pathname)?.[1] ?? searchParams.get('card') ?? document.querySelector('[data-card]')?.getAttribute('data-card');
  return id ? Number(id) : rememberedCard();
}
