'use client';
/** Numbers that an older version worked out, and the way to have them anew. */
import { useState, useTransition } from 'react';
import { asked } from '@/client/asked.ts';
import { judgeAllAgain, measureOverAgain } from '@/server/actions.ts';
import type { Answer } from '@/server/requests/answer.ts';
import { Button } from '../parts/Button.tsx';
import { Notice } from '../parts/Notice.tsx';

export function OlderVersion({ overId, version }: { overId: number; version: string }) {
  const [message, setMessage] = useState<string | null>(null);
  const [isSending, start] = useTransition();
  const send = (work: () => Promise<Answer<number>>) =>
    start(async () => {
      const answer = await asked(work());
      setMessage(answer.ok ? null : answer.message);
    });
  return (
    <Notice tone={message ? 'fault' : 'plain'}>
      {message ?? `Measured by version ${version}, which defined some numbers and findings differently.`}{' '}
      <Button isDisabled={isSending} onPress={() => send(() => measureOverAgain({ overId }))}>
        Measure again
      </Button>{' '}
      <Button isDisabled={isSending} onPress={() => send(() => judgeAllAgain({}))}>
        Measure all overs again
      </Button>
    </Notice>
  );
}
