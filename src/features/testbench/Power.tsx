'use client';
import { useState } from 'react';
import { pepOfVolts, powerBeforePad, USUAL_LOAD_OHMS, type VoltsKind, wattsToDbm } from '@/core/measure/index.ts';
import { fixed, neededNumber } from '@/core/units/index.ts';
/** PEP from volts across the load, or from a reading behind a pad. */
import { NumberText } from '@/ui/parts/NumberText.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';
import { Row, Told, watts } from './rows.tsx';

const KINDS: readonly { id: VoltsKind; text: string }[] = [
  { id: 'peak-to-peak', text: 'V peak to peak' },
  { id: 'peak', text: 'V peak' },
  { id: 'rms', text: 'V RMS' },
];

export function Power() {
  const [volts, setVolts] = useState('20');
  const [kind, setKind] = useState<VoltsKind>('peak-to-peak');
  const [load, setLoad] = useState(String(USUAL_LOAD_OHMS));
  const [dbm, setDbm] = useState('-30');
  const [pad, setPad] = useState('60');
  const [v, r, p, a] = [
    neededNumber(volts, 0, 10_000),
    neededNumber(load, 0.1, 10_000),
    neededNumber(dbm, -150, 60),
    neededNumber(pad, 0, 150),
  ];
  const byVolts = v !== null && r !== null ? pepOfVolts(v, kind, r) : null;
  const byPad = p !== null && a !== null ? powerBeforePad(p, a) : null;
  return (
    <section>
      <h2>Power</h2>
      <p className="soft">
        From a scope at the crest of the envelope, across the dummy load; or from an analyser behind a pad. A scope trace saved as CSV
        (time, volts) can be dropped like a recording.
      </p>
      <Row>
        <NumberText label="Volts" value={volts} onChange={setVolts} least={0} most={10_000} />
        <Picker label="as" choices={KINDS} value={kind} onChange={(id) => setKind(id as VoltsKind)} />
        <NumberText label="Load, Ω" value={load} onChange={setLoad} least={0.1} most={10_000} />
      </Row>
      <Told>
        <dt>PEP</dt>
        <dd>{byVolts === null ? '' : `${watts(byVolts)}${byVolts > 0 ? `, ${fixed(wattsToDbm(byVolts), 1)} dBm` : ''}`}</dd>
      </Told>
      <Row>
        <NumberText label="Reading, dBm" value={dbm} onChange={setDbm} least={-150} most={60} />
        <NumberText label="Pad in front, dB" value={pad} onChange={setPad} least={0} most={150} />
      </Row>
      <Told>
        <dt>power before the pad</dt>
        <dd>{byPad === null ? '' : watts(byPad)}</dd>
      </Told>
    </section>
  );
}
