'use client';
/** Harmonics against a limit that the operator states. */
import { useState } from 'react';
import { exampleLimit, type Harmonic, judgeHarmonics } from '@/core/measure/index.ts';
import { fixed, neededNumber, signed } from '@/core/units/index.ts';
import { Field } from '@/ui/parts/Field.tsx';
import { NumberText } from '@/ui/parts/NumberText.tsx';
import { StateMark } from '@/ui/parts/StateMark.tsx';
import { Table } from '@/ui/parts/Table.tsx';
import { TableHead } from '@/ui/parts/TableHead.tsx';
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
        <TableHead columns={['harmonic', 'level, dB', { number: 'power' }, { number: 'room to the limit' }]} />
        <tbody>
          {ORDERS.map((order, i) => (
            <HarmonicRow
              key={order}
              order={order}
              mhz={mhz}
              level={levels[i]}
              onLevel={(text) => setLevels(levels.with(i, text))}
              judged={judged.find((each) => each.order === order)}
            />
          ))}
        </tbody>
      </Table>
      <p className="soft">
        The example is one regulator’s (47 CFR 97.307(d) below 30 MHz: 43 dB under the mean power; (e) above: 60 dB, or 40 dB and 25 µW up
        to 25 W). Your own regulator decides.
      </p>
    </section>
  );
}

interface HarmonicRowProps {
  readonly order: number;
  /** The fundamental; null while it is no number. */
  readonly mhz: number | null;
  readonly level: string;
  readonly onLevel: (text: string) => void;
  readonly judged?: ReturnType<typeof judgeHarmonics>[number];
}

function HarmonicRow({ order, mhz, level, onLevel, judged }: HarmonicRowProps) {
  return (
    <tr>
      <td>
        {order}. {mhz === null ? '' : `at ${fixed(order * mhz, 2)} MHz`}
      </td>
      <td style={{ width: 120 }}>
        <NumberText hideLabel label={`Level of harmonic ${order}`} value={level} onChange={onLevel} least={-200} most={0} />
      </td>
      <td className="num">{judged && watts(judged.watts)}</td>
      <td className="num">
        {judged && (
          <>
            <StateMark state={judged.marginDb < 0 ? 'fault' : judged.marginDb < 3 ? 'watch' : 'ok'} /> {signed(judged.marginDb, 1)} dB
          </>
        )}
      </td>
    </tr>
  );
}
