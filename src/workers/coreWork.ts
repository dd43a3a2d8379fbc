'use client';
/** The page's one core worker, started when first asked for. */
import { type Remote, wrap } from 'comlink';
import type { CoreWork } from './core.worker.ts';

let work: Remote<CoreWork> | null = null;

export function coreWork(): Remote<CoreWork> {
  work ??= wrap<CoreWork>(new Worker(new URL('./core.worker.ts', import.meta.url), { type: 'module' }));
  return work;
}
