'use client';
/** The sound card's level; the last seconds become a recording. */
import { useGrab } from '@/client/useGrab.ts';
import { useLive } from '@/client/useLive.ts';
import { Bar, Button } from '../parts/Button.tsx';
import { Notice } from '../parts/Notice.tsx';
import { LiveLevel } from './LiveLevel.tsx';

/** @param children further buttons, before its own */
export function LiveGrab({ children }: { children?: React.ReactNode }) {
  const live = useLive();
  const isOn = live.state === 'on';
  const grab = useGrab(live);
  return (
    <>
      {isOn && <LiveLevel reading={live.reading} />}
      {live.message && <Notice tone="fault">{live.message}</Notice>}
      <Bar>
        {children}
        <Button isDisabled={live.state === 'opening'} onPress={isOn ? live.stop : live.start}>
          {isOn ? 'Stop listening' : 'Live level'}
        </Button>
        {isOn && <Button onPress={() => void grab()}>Grab the last {live.grabS} s</Button>}
      </Bar>
    </>
  );
}
