'use client';
/** Why a change was not saved; when somebody else was faster, the way to go on without losing anything. */
import { useRouter } from 'next/navigation';
import { Button } from '@/ui/parts/Button.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import type { SaveRefusal } from './useSave.ts';

export function SaveNotice({ refusal, forget }: { refusal: SaveRefusal | null; forget: () => void }) {
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
