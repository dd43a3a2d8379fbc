/** Recordings that commands name: WAV files, or SigMF by the name of either of its files. */
import type { SampleSource } from '@/core/files/index.ts';
import { openVoice } from './inputs.ts';

export const isSigmf = (path: string): boolean => /\.sigmf-(?:meta|data)$/.test(path);

/** SigMF's checks are loaded only when they are needed. */
export const openRecording = async (path: string): Promise<SampleSource> =>
  isSigmf(path) ? (await import('./sigmfPair.ts')).openSigmfPair(path) : openVoice(path);
