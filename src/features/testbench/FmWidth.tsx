'use client';
import { useState } from 'react';
import { carsonHz, FULL_DEVIATION_HZ, fmWidthOf, heardReFullDb, type FmWidth as Width } from '@/core/measure/index.ts';
import { fixed, neededNumber, signed } from '@/core/units/index.ts';
/** Wide and narrow FM: bandwidth, and what the other width of receiver makes of it. */
import { NumberText } from '@/ui/parts/NumberText.tsx';
import { Row, Told } from './rows.tsx';

const WIDTHS: readonly Width[] = ['wide', 'narrow'];

export function FmWidth() {
  const [deviation, setDeviation] = useState('2500');
  const [audio, setAudio] = useState('3000');
  const [d, a] = [neededNumber(deviation, 50, 100_000), neededNumber(audio, 100, 20_000)];
  return (
    <section>
      <h2>FM width</h2>
      <p className="soft">Narrow into a wide repeater: quality unchanged, volume clearly lower; it will be reported as low power.</p>
      <Row>
        <NumberText label="Peak deviation, Hz" value={deviation} onChange={setDeviation} least={50} most={100_000} />
        <NumberText label="Highest audio, Hz" value={audio} onChange={setAudio} least={100} most={20_000} />
      </Row>
      {d !== null && a !== null && (
        <Told>
          <dt>this is</dt>
          <dd>{fmWidthOf(d)} FM</dd>
          <dt>Carson bandwidth</dt>
          <dd>{fixed(carsonHz(d, a) / 1000, 1)} kHz</dd>
          {WIDTHS.map((width) => (
            <div key={width} style={{ display: 'contents' }}>
              <dt>in a {width} receiver</dt>
              <dd>
                {signed(heardReFullDb(d, width), 1)} dB against a full signal ({FULL_DEVIATION_HZ[width] / 1000} kHz)
              </dd>
            </div>
          ))}
        </Told>
      )}
    </section>
  );
}
