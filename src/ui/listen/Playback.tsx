'use client';
/** One recording: play, stop, and where in it, by mouse and keyboard. */
import { Pause, Play } from 'lucide-react';
import { useRef, useState } from 'react';
import { Slider, SliderThumb, SliderTrack } from 'react-aria-components';
import styled from 'styled-components';
import { duration } from '@/core/units/index.ts';
import { Button } from '../parts/Button.tsx';

const Row = styled.div`
  display: grid; grid-template-columns: auto minmax(80px, 1fr) auto; gap: 12px; align-items: center; margin: 6px 0 12px;
  .track { height: 26px; position: relative; &::before { content: ''; position: absolute; inset: 12px 0; background: var(--line); } }
  .thumb { top: 50%; width: 6px; height: 22px; background: var(--ink); border-radius: 2px; }
  .mono { font-size: 13.5px; white-space: nowrap; }`;

/** @param url of the sound, often a blob of this page */
export function Playback({ url, label }: { url: string; label: string }) {
  const audio = useRef<HTMLAudioElement>(null);
  const [isPlaying, setIsPlaying] = useState(false);
  const [at, setAt] = useState(0);
  const [length, setLength] = useState(0);
  const go = (seconds: number) => {
    setAt(seconds);
    if (audio.current) audio.current.currentTime = seconds;
  };
  const toggle = () => (isPlaying ? audio.current?.pause() : void audio.current?.play());
  return (
    <Row>
      {/* biome-ignore lint/a11y/useMediaCaption: a recording of one voice, shown without its own controls */}
      <audio
        ref={audio}
        src={url}
        onLoadedMetadata={({ currentTarget }) => setLength(currentTarget.duration)}
        onTimeUpdate={({ currentTarget }) => setAt(currentTarget.currentTime)}
        onPlay={() => setIsPlaying(true)}
        onPause={() => setIsPlaying(false)}
      />
      <Button onPress={toggle} aria-label={`${isPlaying ? 'Stop' : 'Play'} ${label}`}>
        {isPlaying ? <Pause size={15} aria-hidden /> : <Play size={15} aria-hidden />}
        {isPlaying ? 'Stop' : 'Play'}
      </Button>
      <Slider
        aria-label={`Place in ${label}`}
        value={at}
        minValue={0}
        maxValue={Math.max(0.1, length)}
        step={0.1}
        onChange={(to) => go(to as number)}
      >
        <SliderTrack className="track">
          <SliderThumb className="thumb" />
        </SliderTrack>
      </Slider>
      <span className="mono">
        {duration(at)} of {duration(length)}
      </span>
    </Row>
  );
}
