'use client';
/** Dials in menu order: live ones with their values, dead ones struck through with what would enable them. */
import { useState } from 'react';
import { Button } from 'react-aria-components';
import styled from 'styled-components';
import { type DialState, type DialValue, valueText } from '@/core/rig/index.ts';
import { Scroll, Table } from '../parts/Table.tsx';
import { DialInput } from './DialInput.tsx';

export interface DialRow extends DialState {
  /** What the card says now; `value` is what it should say. */
  readonly now: DialValue;
  readonly why?: string;
  readonly onChange?: (value: DialValue) => void;
}

const Fold = styled.div`
  margin-top: 6px;
  > button { border: 0; background: none; padding: 4px 8px; color: var(--soft); cursor: pointer; text-decoration: underline; text-underline-offset: 3px; font-size: 14px; }`;

/** @param withMoves show "set to" and "why" columns; @param opensDead show the dead dials without being asked */
export function DialTable({
  rows,
  withMoves = false,
  opensDead = false,
}: {
  rows: readonly DialRow[];
  withMoves?: boolean;
  opensDead?: boolean;
}) {
  const [showsDead, setShowsDead] = useState(opensDead);
  const live = rows.filter(({ dead }) => !dead);
  const dead = rows.filter(({ dead: reason }) => reason);
  const changedDead = dead.filter(({ value, now }) => value !== now);
  const reasons = [...new Set(dead.map(({ dead: reason }) => `${reason?.text} ${reason?.enable}`))];
  return (
    <>
      {live.length > 0 && (
        <Scroll>
          <Table className="stacks">
            <thead>
              <tr>
                <th style={{ width: 64 }}>menu</th>
                <th style={{ width: 190 }}>dial</th>
                <th className="num" style={{ width: withMoves ? 96 : 160 }}>
                  now
                </th>
                {withMoves && (
                  <th className="num" style={{ width: 160 }}>
                    set to
                  </th>
                )}
                <th>{withMoves ? 'why' : ''}</th>
              </tr>
            </thead>
            <tbody>
              {live.map((row) => (
                <LiveRow key={row.dial.id} row={row} withMoves={withMoves} />
              ))}
            </tbody>
          </Table>
        </Scroll>
      )}
      {dead.length > 0 && (
        <Fold>
          <Button className="no-print" aria-expanded={showsDead} onPress={() => setShowsDead(!showsDead)}>
            {showsDead ? 'Hide' : 'Show'} {dead.length} dead {dead.length === 1 ? 'dial' : 'dials'}
            {changedDead.length > 0 ? `, ${changedDead.length} of them changed` : ''}
          </Button>
          {showsDead && (
            <>
              {reasons.map((reason) => (
                <p key={reason} className="soft" style={{ margin: '2px 8px' }}>
                  {reason}
                </p>
              ))}
              <Table>
                <tbody>
                  {dead.map(({ dial, value, onChange, why }) => (
                    <tr key={dial.id} className="dead dials">
                      <td className="mono" style={{ width: 64 }}>
                        {dial.menu || 'front'}
                      </td>
                      <td className="whole" style={{ width: 180 }}>
                        {dial.label}
                      </td>
                      <td className="num value" style={{ width: withMoves ? 96 : 160 }}>
                        {!withMoves && onChange ? <DialInput dial={dial} value={value} onChange={onChange} /> : valueText(dial, value)}
                      </td>
                      <td className="soft">{withMoves ? '' : why}</td>
                    </tr>
                  ))}
                </tbody>
              </Table>
            </>
          )}
        </Fold>
      )}
    </>
  );
}

function LiveRow({ row: { dial, now, value, why, remark, onChange }, withMoves }: { row: DialRow; withMoves: boolean }) {
  const isChanged = value !== now;
  return (
    <tr className={withMoves && !isChanged ? 'dials same' : 'dials'}>
      <td className="mono">{dial.menu || 'front'}</td>
      <td className="whole">{dial.label}</td>
      <td className={withMoves ? 'num now' : 'num set'}>
        {!withMoves && onChange ? <DialInput dial={dial} value={value} onChange={onChange} /> : valueText(dial, now)}
      </td>
      {withMoves && (
        <td className={isChanged ? 'num set new' : 'num set'}>
          {onChange ? <DialInput dial={dial} value={value} onChange={onChange} label={`${dial.label}, set to`} /> : valueText(dial, value)}
        </td>
      )}
      <td className="soft why">{[why, remark].filter(Boolean).join('. ')}</td>
    </tr>
  );
}
