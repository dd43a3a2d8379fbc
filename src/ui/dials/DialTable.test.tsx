// @vitest-environment jsdom
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, expect, it } from 'vitest';
import { twoBankRig } from '../../../tests/support/rigs.ts';
import { factoryCard, valueOn } from '../../core/rig/card.ts';
import { effective } from '../../core/rig/effective.ts';
import { DialTable } from './DialTable.tsx';

afterEach(cleanup);
const rig = twoBankRig();
const card = factoryCard(rig);
const rows = effective(rig, card).dials.map((state) => ({ ...state, now: valueOn(card, state.dial) }));
const dead = rows.filter((row) => row.dead);

it('dead dials are folded away, and tell when opened what would enable them', async () => {
  render(<DialTable rows={rows} />);
  expect(dead.length).toBeGreaterThan(0);
  const [first] = dead;
  expect(screen.queryByText(first.dial.label)).toBeNull();
  await userEvent.click(screen.getByRole('button', { name: `Show ${dead.length} dead dials` }));
  expect(screen.getByText(first.dial.label)).toBeTruthy();
  expect(screen.getByText(`${first.dead?.text} ${first.dead?.enable}`)).toBeTruthy();
});

it('a change to a dead dial is not hidden', () => {
  const changed = rows.map((row) => (row.dead ? { ...row, now: 'something else' } : row));
  render(<DialTable rows={changed} />);
  expect(screen.getByRole('button', { name: new RegExp(`${dead.length} of them changed`) })).toBeTruthy();
});
