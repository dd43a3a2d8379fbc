'use client';
/** Why a change was not saved; when somebody else was faster, the way to go on without losing anything. */
import { useRouter } from 'next/navigation';
import type { FormRefusal } from '@/client/useForm.ts';
import { Button } from '../parts/Button.tsx';
import { Notice } from '../parts/Notice.tsx';

export function SaveNotice({ refusal, forget }: { refusal: FormRefusal | null; forget: () => void }) {
  const router = useRouter();
  if (!refusal) return null;
  return (
    <Notice tone="fault">
      <span>{refusal.text}</span>
      {refusal.isOvertaken && (
        <Button
          onPress={() => {
            forget();
            router.refresh();
          }}
        >
          Show it, keep my changes
        </Button>
      )}
    </Notice>
  );
}
