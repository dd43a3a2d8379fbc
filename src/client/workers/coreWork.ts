'use client';
/** The page's workers, each started when first asked for. */
import { type Remote, wrap } from 'comlink';
import pLimit from 'p-limit';
import type { CoreWork } from './core.worker.ts';
import type { ModelWork } from './model.worker.ts';

let work: Remote<CoreWork> | null = null;

export function coreWork(): Remote<CoreWork> {
  work ??= started<CoreWork>(new Worker(new URL('./core.worker.ts', import.meta.url), { type: 'module' }), () => {
    work = null;
  });
  return work;
}

let model: Remote<ModelWork> | null = null;

/** Rendering and judging of cards: seconds of work, beside what the page needs at once. */
export function modelWork(): Remote<ModelWork> {
  model ??= started<ModelWork>(new Worker(new URL('./model.worker.ts', import.meta.url), { type: 'module' }), () => {
    model = null;
  });
  return model;
}

/** One that could not be loaded, as without a network, is forgotten: whoever asks next gets a new one. */
function started<T>(worker: Worker, forget: () => void): Remote<T> {
  worker.addEventListener('error', forget, { once: true });
  return wrap<T>(worker);
}

/** One rating at a time is sent, so that what is listened to meanwhile gets its turn. */
export const inTurn = pLimit(1);
