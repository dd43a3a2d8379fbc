'use client';
/** One kind of part of the station, with what can be done with each. */
import Link from 'next/link';
import type { ReactNode } from 'react';
import type { PartKind } from '@/server/requests/requests.ts';
import { Bar, Button } from '@/ui/parts/Button.tsx';
import { Scroll, Table } from '@/ui/parts/Table.tsx';

export interface PartRow {
  readonly id: number;
  readonly name: string;
  readonly isRetired: boolean;
}

export const nameOf = ({ name, isRetired }: PartRow): string => (isRetired ? `${name} (retired)` : name);

interface DoingsProps {
  readonly kind: PartKind;
  readonly row: PartRow;
  readonly isBusy: boolean;
  readonly onRetire: (isRetired: boolean) => void;
  /** Opens a sheet; rigs and microphones have pages of their own. */
  readonly onEdit?: (isCopy: boolean) => void;
}

/** Edit, copy, file, retire. */
export function Doings({ kind, row, isBusy, onRetire, onEdit }: DoingsProps) {
  const { id, name, isRetired } = row;
  const retire = isRetired ? 'Restore' : 'Retire';
  return (
    <>
      {onEdit ? (
        <>
          <Button aria-label={`Edit ${name}`} onPress={() => onEdit(false)}>
            Edit
          </Button>
          <Button aria-label={`Copy ${name}`} onPress={() => onEdit(true)}>
            Copy
          </Button>
        </>
      ) : (
        <>
          <Link href={`/station/${kind}s/${id}`} aria-label={`Edit ${name}`}>
            Edit
          </Link>
          <Link href={`/station/${kind}s/new?copy=${id}`} aria-label={`Copy ${name}`}>
            Copy
          </Link>
          <a href={`/api/${kind}s/${id}`} aria-label={`${name} as a file`}>
            File
          </a>
        </>
      )}
      <Button aria-label={`${retire} ${name}`} isDisabled={isBusy} onPress={() => onRetire(!isRetired)}>
        {retire}
      </Button>
    </>
  );
}

export function PartTable({
  title,
  headings,
  rows,
  add,
}: {
  title: string;
  headings: readonly string[];
  rows: readonly (readonly ReactNode[])[];
  add: ReactNode;
}) {
  return (
    <section aria-label={title}>
      <h2>{title}</h2>
      {rows.length === 0 ? (
        <p className="soft">None here.</p>
      ) : (
        <Scroll>
          <Table>
            <thead>
              <tr>
                {headings.map((heading, i) => (
                  <th key={i}>{heading}</th>
                ))}
              </tr>
            </thead>
            <tbody>
              {rows.map(([key, ...cells]) => (
                <tr key={String(key)}>
                  {cells.map((cell, i) => (
                    <td key={i} className={i === 0 || /\d Hz$/.test(String(cell)) ? 'whole' : i === cells.length - 1 ? 'do' : undefined}>
                      {cell}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </Table>
        </Scroll>
      )}
      <Bar>{add}</Bar>
    </section>
  );
}
