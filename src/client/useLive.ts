'use client';
/** Live sound: the sound card opened, measured in the worker as it comes, and the last seconds as a recording. */
import { useEffect, useRef, useState } from 'react';
import type { LiveReading } from '@/core/measure/index.ts';
import { inputs, openSoundCard, type SoundCard, whyNot } from './soundCard.ts';
import { coreWork } from './workers/coreWork.ts';

const GRAB_S = 10;
const LOST =
  'The sound input went away: it was unplugged, or the browser withdrew it. What was heard up to then is gone from this page; grabbed recordings are kept.';
const TOO_SHORT = 'Half a second is the least that can be measured: wait a moment.';

export interface Live {
  readonly state: 'idle' | 'opening' | 'on';
  readonly message: string | null;
  readonly reading: LiveReading | null;
  readonly devices: readonly { readonly id: string; readonly text: string }[];
  readonly device: string | null;
  /** How many seconds `grab` would take now. */
  readonly grabS: number;
  readonly choose: (device: string) => void;
  readonly start: () => void;
  readonly stop: () => void;
  readonly clearPeakHold: () => void;
  /** The last seconds as a WAV file; null while there is too little. */
  readonly grab: () => Promise<File | null>;
}

/** Hands blocks to the worker; what comes while it works waits for its answer, so that it never falls behind. */
function useReading() {
  const [reading, setReading] = useState<LiveReading | null>(null);
  const waiting = useRef<Float32Array[]>([]);
  const isBusy = useRef(false);
  const feed = async (block: Float32Array) => {
    waiting.current.push(block);
    if (isBusy.current) return;
    isBusy.current = true;
    const blocks = waiting.current;
    waiting.current = [];
    try {
      setReading(await coreWork().live(blocks));
    } finally {
      isBusy.current = false;
    }
  };
  return { reading, feed };
}

export function useLive(): Live {
  const [state, setState] = useState<Live['state']>('idle');
  const [message, setMessage] = useState<string | null>(null);
  const [devices, setDevices] = useState<Live['devices']>([]);
  const [device, setDevice] = useState<string | null>(null);
  const { reading, feed } = useReading();
  const card = useRef<SoundCard | null>(null);
  useEffect(() => () => card.current?.close(), []);
  const stop = (why: string | null = null) => {
    card.current?.close();
    card.current = null;
    setState('idle');
    setMessage(why);
  };
  const start = async (wanted: string | null) => {
    stop();
    setState('opening');
    try {
      const opened = await openSoundCard(wanted, { onBlock: (block) => void feed(block), onLost: () => stop(LOST) });
      await coreWork().startLive(opened.sampleRateHz);
      card.current = opened;
      setState('on');
      setDevices(await inputs());
    } catch (error) {
      stop(whyNot(error));
    }
  };
  const grab = async () => {
    const opened = card.current;
    const samples = opened?.last(GRAB_S);
    if (!opened || !samples) return null;
    if (samples.length < opened.sampleRateHz / 2) {
      setMessage(TOO_SHORT);
      return null;
    }
    const file = await coreWork().asRecording(samples, opened.sampleRateHz);
    return new File([file], `live-${new Date().toISOString().slice(0, 19).replaceAll(':', '')}Z.wav`, { type: 'audio/wav' });
  };
  return {
    state,
    message,
    reading,
    devices,
    device: device ?? devices[0]?.id ?? null,
    grabS: Math.min(GRAB_S, Math.max(1, Math.floor(card.current?.keptS() ?? GRAB_S))),
    choose(id) {
      setDevice(id);
      if (state === 'on') void start(id);
    },
    start: () => void start(device),
    stop: () => stop(),
    clearPeakHold: () => void coreWork().releaseLive(),
    grab,
  };
}
