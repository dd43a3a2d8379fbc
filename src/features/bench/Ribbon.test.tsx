// @vitest-environment jsdom
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, expect, it, vi } from 'vitest';
import { STATE_WORDS, type State } from '../../core/findings/state.ts';
import { STAGE_NAMES, STAGES } from '../../core/rig/stages.ts';
import { Ribbon } from './Ribbon.tsx';

afterEach(cleanup);
const STATES: readonly State[] = ['ok', 'watch', 'fault', 'stale', 'unknown'];
const stages = STAGES.map((key, k) => ({ key, value: `value ${k}`, note: '', state: STATES[k % STATES.length] }));

it('every stage has its name, its value and its state as a word, in the order of the path', async () => {
  const onChoose = vi.fn();
  render(<Ribbon stages={stages} current="alc" onChoose={onChoose} />);
  const buttons = screen.getAllByRole('button');
  expect(buttons.map((each) => each.textContent)).toEqual(
    stages.map(({ key, value, state }) => `${STAGE_NAMES[key]}: ${STATE_WORDS[state]}${value}`),
  );
  expect(buttons.findIndex((each) => each.getAttribute('aria-current') === 'step')).toBe(STAGES.indexOf('alc'));
  await userEvent.click(buttons[2]);
  expect(onChoose).toHaveBeenCalledWith('gain');
});
