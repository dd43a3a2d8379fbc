'use client';
import { isBound } from '@/ui/measured/NumberGrid.tsx';
import { type ReportNumber, reportNumbers } from '@/ui/measured/numbers.ts';
/** Every number of the overs in rows; a difference from A that matters is marked. */
import { StateMark } from '@/ui/parts/StateMark.tsx';
import { Scroll, Table } from '@/ui/parts/Table.tsx';
import type { Lettered } from './letters.ts';

/** Rows in the order of the first over that has them. */
function rowsOf(items: readonly Lettered[]): { name: string; cells: (ReportNumber | undefined)[] }[] {
  const all = items.map(({ over }) => new Map(reportNumbers(over.evidence.result).map((each) => [each.name, each])));
  const names = [...new Set(all.flatMap((numbers) => [...numbers.keys()]))];
  return names.map((name) => ({ name, cells: all.map((numbers) => numbers.get(name)) }));
}

/** A bound may lie anywhere below: it differs only from what stands above it. */
export function differs(first: ReportNumber | undefined, cell: ReportNumber | undefined): boolean {
  if (first?.value == null || cell?.value == null || (isBound(first.note) && isBound(cell.note))) return false;
  const by = cell.value - first.value;
  if (isBound(first.note)) return by >= first.matters;
  return isBound(cell.note) ? -by >= first.matters : Math.abs(by) >= first.matters;
}

export function Differences({ items }: { items: readonly Lettered[] }) {
  return (
    <Scroll>
      <Table>
        <thead>
          <tr>
            <th>number</th>
            {items.map(({ letter }) => (
              <th key={letter} className="num">
                {letter}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rowsOf(items).map(({ name, cells }) => (
            <tr key={name}>
              <td>{name}</td>
              {cells.map((cell, i) => {
                const isMarked = i > 0 && differs(cells[0], cell);
                return (
                  <td key={items[i].letter} className="num" title={cell?.note} style={isMarked ? { fontWeight: 700 } : undefined}>
                    {isMarked && <StateMark state="watch" />} {cell ? `${isBound(cell.note) ? '≤ ' : ''}${cell.text}` : ''}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </Table>
      <p className="soft">
        A triangle marks what differs from A by more than an ear or a limit would overlook; ≤ marks numbers that noise bounds.
      </p>
    </Scroll>
  );
}
