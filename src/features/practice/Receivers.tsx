'use client';
/** Who heard the over, and its recordings. */
import { useEffect, useRef, useState } from 'react';
import styled from 'styled-components';
import { useAddFiles } from '@/client/addRecording.ts';
import { type PracticeRequest, transmit } from '@/client/transmit.ts';
import { PRACTICE_RECEIVERS } from '@/core/simulate/index.ts';
import { Bar, Button } from '@/ui/parts/Button.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import { Table } from '@/ui/parts/Table.tsx';

const Heard = styled(
  Table,
)`td { padding-block: 3px; } td > div { margin: 0; justify-content: flex-end; flex-wrap: nowrap; } button { padding: 2px 10px; min-height: 28px; font-size: 13.5px; }`;

/** Each delivers the over as a file, which goes in by the same door as a real one. */
export function Receivers({ request }: { request: (receiver: number, isIq: boolean) => PracticeRequest }) {
  const addFiles = useAddFiles();
  const [busy, setBusy] = useState<string | null>(null);
  const [error, setError] = useState<string | null>(null);
  const isThere = useRef(true);
  useEffect(() => {
    isThere.current = true;
    return () => {
      isThere.current = false;
    };
  }, []);
  const take = async (receiver: number, isIq: boolean) => {
    setBusy(`${receiver}${isIq}`);
    setError(null);
    try {
      const { file } = await transmit(request(receiver, isIq));
      if (isThere.current) addFiles([file]);
    } catch (problem) {
      setError((problem as Error).message);
    }
    setBusy(null);
  };
  return (
    <>
      <h2>Choose a receiver</h2>
      <p className="soft">Take the over as a recording, from whoever heard it. Its file name says that it is simulated.</p>
      {error && <Notice tone="fault">{error}</Notice>}
      <Heard>
        <tbody>
          {PRACTICE_RECEIVERS.map(({ name }, k) => (
            <tr key={name}>
              <td>{name}</td>
              <td className="num">
                <Bar>
                  <Button aria-label={`Audio of ${name}`} isDisabled={busy !== null} onPress={() => void take(k, false)}>
                    {busy === `${k}false` ? '…' : 'Audio'}
                  </Button>
                  <Button aria-label={`I/Q of ${name}`} isDisabled={busy !== null} onPress={() => void take(k, true)}>
                    {busy === `${k}true` ? '…' : 'I/Q'}
                  </Button>
                </Bar>
              </td>
            </tr>
          ))}
        </tbody>
      </Heard>
    </>
  );
}
