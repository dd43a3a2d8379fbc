'use client';
import { useState } from 'react';
import { padFor } from '@/core/measure/index.ts';
import { fixed, neededNumber } from '@/core/units/index.ts';
import { Notice } from '@/ui/parts/Notice.tsx';
/** The attenuation in front of a receiver or analyser, and the heat in it. */
import { NumberText } from '@/ui/parts/NumberText.tsx';
import { Row, Told, watts } from './rows.tsx';

export function Pad() {
  const [power, setPower] = useState('10');
  const [most, setMost] = useState('-10');
  const [margin, setMargin] = useState('10');
  const [p, m, g] = [neededNumber(power, 1e-6, 5000), neededNumber(most, -120, 60), neededNumber(margin, 0, 60)];
  const pad = p !== null && m !== null && g !== null ? padFor(p, m, g) : null;
  return (
    <section>
      <h2>Pad in front of an input</h2>
      <p className="soft">Work it out before anything is connected.</p>
      <Row>
        <NumberText label="Transmitter, W" value={power} onChange={setPower} least={0.000001} most={5000} />
        <NumberText label="Maximum safe input, dBm" value={most} onChange={setMost} least={-120} most={60} />
        <NumberText label="Safety margin, dB" value={margin} onChange={setMargin} least={0} most={60} />
      </Row>
      {pad && (
        <Told>
          <dt>pad, at least</dt>
          <dd>{pad.leastDb} dB</dd>
          <dt>arrives at the input</dt>
          <dd>{fixed(pad.outDbm, 1)} dBm</dd>
          <dt>its resistors must take</dt>
          <dd>{watts(pad.heatW)} while you key</dd>
        </Told>
      )}
      <Notice>
        Never connect a transmitter to a receiver or an analyser without enough attenuation. The first resistors take nearly all of the
        heat: mind the rating of the first pad, not of the sum. A whip near the dummy load is safer than any cable.
      </Notice>
    </section>
  );
}
