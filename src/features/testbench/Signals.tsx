'use client';
/** Test signals: made in the page, saved as WAV or played into the mic socket. */
import { useEffect, useRef, useState } from 'react';
import { coreWork } from '@/client/workers/coreWork.ts';
import { RESPONSE_SIGNAL, TEST_SIGNALS, type TestSignal } from '@/core/dsp/index.ts';
import { neededNumber } from '@/core/units/index.ts';
import { Bar, Button } from '@/ui/parts/Button.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import { NumberText } from '@/ui/parts/NumberText.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';
import { Row } from './rows.tsx';

const NAMES: Record<TestSignal, { text: string; note: string }> = {
  sweep: { text: 'sweep', note: 'for the response: recorded on a second receiver, dropped here' },
  'two-tone': { text: 'two tones, 700 and 1900 Hz', note: 'for intermodulation, with an I/Q recording' },
  stepped: { text: 'stepped tones', note: 'third octaves, one after another' },
  pink: { text: 'pink noise', note: 'equal power in every octave' },
  'speech-noise': { text: 'speech-shaped noise', note: 'steady, with the spectrum of speech' },
};
const RATE_HZ = 48_000;

type SignalShape = Parameters<ReturnType<typeof coreWork>['testSignal']>[0];

/** One signal, saved to disk or played through the sound card. */
function useSignal(shape: SignalShape) {
  const [isBusy, setIsBusy] = useState(false);
  const [isPlaying, setIsPlaying] = useState(false);
  const playing = useRef<{ context: AudioContext; source: AudioBufferSourceNode } | null>(null);
  useEffect(() => () => playing.current?.source.stop(), []);
  const stop = () => {
    playing.current?.source.stop();
    void playing.current?.context.close();
    playing.current = null;
    setIsPlaying(false);
  };
  const busyWith = (work: () => Promise<void>) => {
    setIsBusy(true);
    return work().finally(() => setIsBusy(false));
  };
  const save = () =>
    busyWith(async () => {
      const file = await coreWork().testSignalFile(shape);
      const url = URL.createObjectURL(file);
      Object.assign(document.createElement('a'), { href: url, download: `dialtune-${shape.signal}.wav` }).click();
      setTimeout(() => URL.revokeObjectURL(url), 10_000);
    });
  const play = () => {
    const context = new AudioContext();
    return busyWith(async () => {
      const samples = await coreWork().testSignal(shape);
      const buffer = context.createBuffer(1, samples.length, RATE_HZ);
      buffer.copyToChannel(Float32Array.from(samples), 0);
      const source = new AudioBufferSourceNode(context, { buffer });
      source.connect(context.destination);
      source.onended = stop;
      playing.current = { context, source };
      source.start();
      setIsPlaying(true);
    });
  };
  return { isBusy, isPlaying, save, play, stop };
}

export function Signals() {
  const [signal, setSignal] = useState<TestSignal>('sweep');
  const [seconds, setSeconds] = useState(String(RESPONSE_SIGNAL.usualSeconds));
  const [level, setLevel] = useState('-20');
  const isSweep = signal === 'sweep';
  const [least, most] = isSweep ? [RESPONSE_SIGNAL.leastSeconds, RESPONSE_SIGNAL.mostSeconds] : [1, 60];
  const [length, levelDb] = [neededNumber(seconds, least, most), neededNumber(level, -80, 0)];
  const isWhole = length !== null && (!isSweep || Number.isInteger(length));
  const { isBusy, isPlaying, save, play, stop } = useSignal({ signal, rateHz: RATE_HZ, seconds: length ?? 6, levelDb: levelDb ?? -20 });
  return (
    <section>
      <h2>Test signals</h2>
      <p className="soft">
        Into the mic socket in place of the mic, into a dummy load; record what comes out on a second receiver with its AGC off, and drop
        the recording here.
      </p>
      <Row>
        <Picker
          label="Signal"
          choices={TEST_SIGNALS.map((id) => ({ id, ...NAMES[id] }))}
          value={signal}
          onChange={(id) => setSignal(id as TestSignal)}
        />
        <NumberText label={isSweep ? 'Each sweep, s' : 'Length, s'} value={seconds} onChange={setSeconds} least={least} most={most} />
        <NumberText label="Peak, dB" value={level} onChange={setLevel} least={-80} most={0} />
      </Row>
      {length !== null && !isWhole && <Notice tone="fault">A sweep lasts whole seconds, so that its recording can be told.</Notice>}
      <Bar>
        <Button primary isDisabled={isBusy || !isWhole || levelDb === null} onPress={() => void save()}>
          Save as WAV
        </Button>
        <Button isDisabled={isBusy || !isWhole || levelDb === null} onPress={() => (isPlaying ? stop() : void play())}>
          {isPlaying ? 'Stop' : 'Play'}
        </Button>
      </Bar>
      <Notice>
        Two tones, sweeps and noise are continuous duty: reduce power, keep them short, watch temperature and SWR. Start with the level low
        and raise it until the ALC just moves. Headphones off. On the air: your licence and local rules decide whether you may at all.
      </Notice>
    </section>
  );
}
