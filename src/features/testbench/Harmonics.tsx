'use client';
import { useState } from 'react';
import { exampleLimit, type Harmonic, judgeHarmonics } from '@/core/measure/index.ts';
import { fixed, neededNumber, signed } from '@/core/units/index.ts';
import { Field } from '@/ui/parts/Field.tsx';
/** Harmonics against a limit that the operator states. */
import { NumberText } from '@/ui/parts/NumberText.tsx';
import { StateMark } from '@/ui/parts/StateMark.tsx';
import { Table } from '@/ui/parts/Table.tsx';
import { Row, watts } from './rows.tsx';

const ORDERS = [2, 3, 4, 5] as const;

export function Harmonics() {
  const [megahertz, setMegahertz] = useState('14.1');
  const [power, setPower] = useState('10');
  const [levels, setLevels] = useState<readonly string[]>(['-48', '-52', '-60', '-65']);
  const [ownLimit, setOwnLimit] = useState('');
  const [mhz, p] = [neededNumber(megahertz, 0.1, 3000), neededNumber(power, 1e-3, 5000)];
  const example = mhz !== null && p !== null ? exampleLimit(mhz * 1e6, p) : null;
  const own = ownLimit.trim() === '' ? null : neededNumber(ownLimit, 0, 150);
  const limit = own !== null ? { leastDb: own, mostW: null } : example;
  const harmonics: Harmonic[] = levels.flatMap((text, i) => {
    const levelDb = neededNumber(text, -200, 0);
    return levelDb === null ? [] : [{ order: ORDERS[i], levelDb }];
  });
  const judged = limit && p !== null ? judgeHarmonics(harmonics, p, limit) : [];
  return (
    <section>
      <h2>Harmonics</h2>
      <p className="soft">
        As read behind a pad on an analyser, in dB under the fundamental. Small radios may need an outside low-pass filter on a band.
      </p>
      <Row>
        <NumberText label="Fundamental, MHz" value={megahertz} onChange={setMegahertz} least={0.1} most={3000} />
        <NumberText label="Mean power, W" value={power} onChange={setPower} least={0.001} most={5000} />
        <Field
          label={`Your limit, dB under${example ? ` (example: ${example.leastDb})` : ''}`}
          value={ownLimit}
          onChange={setOwnLimit}
          error={ownLimit.trim() !== '' && own === null ? '0 to 150 dB.' : undefined}
        />
      </Row>
      <Table>
        <thead>
          <tr>
            <th>harmonic</th>
            <th>level, dB</th>
            <th className="num">power</th>
            <th className="num">room to the limit</th>
          </tr>
        </thead>
        <tbody>
          {ORDERS.map((order, i) => {
            const found = judged.find((each) => each.order === order);
            return (
              <tr key={order}>
                <td>
                  {order}. {mhz === null ? '' : `at ${fixed(order * mhz, 2)} MHz`}
                </td>
                <td style={{ width: 120 }}>
                  <NumberText
                    hideLabel
                    label={`Level of harmonic ${order}`}
                    value={levels[i]}
                    onChange={(text) => setLevels(levels.map((old, k) => (k === i ? text : old)))}
                    least={-200}
                    most={0}
                  />
                </td>
                <td className="num">{found && watts(found.watts)}</td>
                <td className="num">
                  {found && (
                    <>
                      <StateMark state={found.marginDb < 0 ? 'fault' : found.marginDb < 3 ? 'watch' : 'ok'} /> {signed(found.marginDb, 1)}{' '}
                      dB
                    </>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </Table>
      <p className="soft">
        The example is one regulator’s (47 CFR 97.307(d) below 30 MHz: 43 dB under the mean power; (e) above: 60 dB, or 40 dB and 25 µW up
        to 25 W). Your own regulator decides.
      </p>
    </section>
  );
}
