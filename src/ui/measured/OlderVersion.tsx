'use client';
/** Numbers that an older version worked out, and the way to have them anew. */
import type { MeasureAgain } from '@/client/useMeasureAgain.ts';
import { Button } from '../parts/Button.tsx';
import { Notice } from '../parts/Notice.tsx';

export function OlderVersion({ version, again }: { version: string; again: MeasureAgain }) {
  return (
    <Notice>
      Measured by version {version}, which defined some numbers and findings differently.{' '}
      <Button isDisabled={again.isSending} onPress={() => again.measure()}>
        Measure again
      </Button>{' '}
      <Button isDisabled={again.isSending} onPress={again.measureAll}>
        Measure all overs again
      </Button>
    </Notice>
  );
}
