'use client';
/** The last seconds of the sound card as a new recording. */
import { useAddFiles } from './addRecording.ts';
import type { useLive } from './useLive.ts';

export function useGrab(live: Pick<ReturnType<typeof useLive>, 'grab'>): () => Promise<void> {
  const addFiles = useAddFiles();
  return async () => {
    const file = await live.grab();
    if (file) addFiles([file]);
  };
}
