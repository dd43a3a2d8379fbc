'use client';
/** Is a radio fit for the air? The answer on one page: mode by mode, with what it rests on and what it cannot tell. */
import Link from 'next/link';
import styled from 'styled-components';
import { AIR_MODES, type AirKind, type AirRow, type AirTest, airModeOf, fitForAir } from '@/core/findings/index.ts';
import { headline, KIND_NAMES, radioKindOf } from '@/core/measure/index.ts';
import type { OverView } from '@/server/overs/overView.ts';
import type { RigView } from '@/server/station/station.ts';
import { Findings } from '@/ui/measured/Findings.tsx';
import { Bar, Button, ButtonLink } from '@/ui/parts/Button.tsx';
import { StateMark } from '@/ui/parts/StateMark.tsx';
import { Scroll, Table } from '@/ui/parts/Table.tsx';
import { TableHead } from '@/ui/parts/TableHead.tsx';
import { Page, Shell } from '@/ui/shell/Shell.tsx';
import { utc } from '@/ui/utc.ts';

const Answer = styled.p`font-size: 19px; margin: 10px 0 16px; display: flex; gap: 10px; align-items: baseline;`;
const Mode = styled.section`
  display: grid; grid-template-columns: 54px minmax(0, 1fr); gap: 4px 12px; border-top: 1px solid var(--line); padding: 10px 0 6px;
  h2 { margin: 0; font-size: 16px; }
  p { margin: 0 0 6px; }
  @media (max-width: 560px) { grid-template-columns: minmax(0, 1fr); }`;

interface FitForAirProps {
  readonly rig: RigView;
  readonly practiceRadio: number | null;
  /** Measured I/Q recordings of it, newest first. */
  readonly captures: readonly OverView[];
}

export function FitForAir({ rig, practiceRadio, captures }: FitForAirProps) {
  const tests = captures.flatMap(({ capture, evidence }): AirTest[] =>
    capture && evidence && airModeOf(evidence.result.kind)
      ? [{ id: capture.id, kind: evidence.result.kind as AirKind, findings: evidence.result.findings }]
      : [],
  );
  const modes = new Set(rig.profile.modes.map((mode) => airModeOf(radioKindOf(mode))));
  const answer = fitForAir(
    AIR_MODES.filter((mode) => modes.has(mode)),
    tests,
  );
  const name = practiceRadio === null ? rig.name : `${rig.name}, practice radio ${practiceRadio}`;
  return (
    <Shell>
      <Page>
        <h1>Is {name} fit for the air?</h1>
        <Answer>
          <StateMark state={answer.state} />
          <span>{answer.text}</span>
        </Answer>
        {answer.rows.map((row) => (
          <ModeAnswer key={row.mode} row={row} captures={captures.filter(({ capture }) => capture && row.ids.includes(capture.id))} />
        ))}
        <h2 style={{ marginTop: 22 }}>What these recordings cannot tell</h2>
        <ul>
          <li>
            Harmonics: read them off an analyser behind a pad, and weigh them on the <Link href="/testbench">test bench</Link>. The
            regulator sets the limit; a low-power radio may need a low-pass filter of its own on a band.
          </li>
          <li>
            Power: from scope volts or dBm and pad, on the <Link href="/testbench">test bench</Link>.
          </li>
          <li>Faults in the antenna, such as arcing on peaks: they are heard on the air only, by a receiver with its own antenna.</li>
        </ul>
        <p className="soft">
          Measure into a dummy load at low power. Never connect a transmitter to a receiver or analyser without enough attenuation. Your
          licence and local rules decide, not this page.
        </p>
        <Bar className="no-print">
          <Button onPress={() => window.print()}>Print</Button>
          <ButtonLink href="/overs">Add a recording</ButtonLink>
          <ButtonLink href={practiceRadio === null ? '/station' : '/practice'}>
            {practiceRadio === null ? 'Back to the station' : 'Back to practice'}
          </ButtonLink>
        </Bar>
      </Page>
    </Shell>
  );
}

function ModeAnswer({ row, captures }: { row: AirRow; captures: readonly OverView[] }) {
  return (
    <Mode>
      <h2>{row.mode}</h2>
      <div>
        <p>
          <StateMark state={row.state} /> {row.text}
        </p>
        {row.findings.length > 0 && <Findings findings={row.findings} />}
        {captures.length > 0 && (
          <Scroll>
            <Table>
              <TableHead columns={['over', 'recorded (UTC)', 'as', 'heard on', 'load', 'what it shows']} />
              <tbody>
                {captures.map((over) => (
                  <tr key={over.capture?.id}>
                    <td>
                      <Link href={`/overs/${over.id}`}>over {over.id}</Link>
                    </td>
                    <td className="whole">{utc(over.madeAt)}</td>
                    <td>{over.capture && KIND_NAMES[over.capture.kind]}</td>
                    <td>{over.receiver.name}</td>
                    <td>{over.load}</td>
                    <td>{over.evidence && headline(over.evidence.result)}</td>
                  </tr>
                ))}
              </tbody>
            </Table>
          </Scroll>
        )}
      </div>
    </Mode>
  );
}
