'use client';
/** Brings in a rig or microphone from its file, or lists what is wrong with it, and where. */
import { useState } from 'react';
import { FileTrigger } from 'react-aria-components';
import { asked } from '@/client/asked.ts';
import type { Problem } from '@/core/schema/index.ts';
import { saveMicrophone, saveRig } from '@/server/station/actions.ts';
import { Button } from '@/ui/parts/Button.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import { Problems } from '@/ui/parts/Problems.tsx';

const MOST_BYTES = 1_000_000;

export function ImportPart({ kind }: { kind: 'rig' | 'microphone' }) {
  const [added, setAdded] = useState<string | null>(null);
  const [refused, setRefused] = useState<{ file: string; problems: readonly Problem[] } | null>(null);
  const read = async (file: File | undefined) => {
    if (!file) return;
    setAdded(null);
    setRefused(null);
    const refuse = (text: string) => setRefused({ file: file.name, problems: [{ place: '', text }] });
    if (file.size > MOST_BYTES) return refuse(`The file is too large for a ${kind}.`);
    const answer = await asked<unknown>((kind === 'rig' ? saveRig : saveMicrophone)({ text: await file.text() }));
    if (answer.ok) setAdded(file.name);
    else if (answer.problems) setRefused({ file: file.name, problems: answer.problems });
    else refuse(answer.message);
  };
  return (
    <>
      <FileTrigger acceptedFileTypes={['.json']} onSelect={(files) => void read(files?.[0])}>
        <Button>Import a {kind}</Button>
      </FileTrigger>
      {added && <Notice>{added} was added.</Notice>}
      {refused && (
        <div style={{ flexBasis: '100%' }}>
          <p style={{ margin: 0 }}>{refused.file} was not added:</p>
          <Problems problems={refused.problems} />
        </div>
      )}
    </>
  );
}
