'use client';
/** Dials to set, each with what it stands at and what it goes to. */
import { type Dial, type DialValue, valueText } from '@/core/rig/index.ts';
import { Table } from '@/ui/parts/Table.tsx';

interface SettingsTableProps {
  readonly label: string;
  readonly settings: readonly { readonly dial: Dial; readonly from: DialValue; readonly to: DialValue }[];
}

export const SettingsTable = ({ label, settings }: SettingsTableProps) => (
  <Table aria-label={label}>
    <tbody>
      {settings.map(({ dial, from, to }) => (
        <tr key={dial.id}>
          <td className="mono">{dial.menu || 'front'}</td>
          <td>{dial.label}</td>
          <td className="num">{valueText(dial, from)}</td>
          <td className="num new">{valueText(dial, to)}</td>
        </tr>
      ))}
    </tbody>
  </Table>
);
