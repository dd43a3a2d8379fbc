// @vitest-environment jsdom
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { parametricRig } from '../../../tests/support/rigs.ts';
import type { Dial, DialValue } from '../../core/rig/rig.ts';
import { DialInput } from './DialInput.tsx';

afterEach(cleanup);
const rig = parametricRig(3);
const level = rig.dials.find(({ unit, scale }) => unit === 'dB' && scale.kind === 'steps') as Dial;
const shown = (value: DialValue = 0) => {
  const onChange = vi.fn<(value: DialValue) => void>();
  render(<DialInput dial={level} value={value} onChange={onChange} label="level" />);
  return { onChange, input: screen.getByLabelText('level') as HTMLInputElement };
};

describe('a dial’s value', () => {
  it('is typed with a real minus, a hyphen or a comma', async () => {
    for (const words of ['−3', '-3']) {
      const { onChange, input } = shown();
      await userEvent.clear(input);
      await userEvent.type(input, `${words}{Enter}`);
      expect(onChange).toHaveBeenLastCalledWith(-3);
      cleanup();
    }
  });

  it('outside its range is refused at the field, with the range', async () => {
    const { onChange, input } = shown();
    await userEvent.clear(input);
    await userEvent.type(input, '999{Enter}');
    expect(onChange).not.toHaveBeenCalled();
    expect(screen.getByRole('alert').textContent).toMatch(/ to .*dB/);
    await userEvent.keyboard('{Escape}');
    expect(screen.queryByRole('alert')).toBeNull();
  });

  it('steps by the arrows, and stops at the end of the scale', async () => {
    const { onChange, input } = shown();
    await userEvent.click(input);
    await userEvent.keyboard('{ArrowUp}');
    expect(onChange).toHaveBeenLastCalledWith(level.scale.kind === 'steps' ? level.scale.step : 1);
    cleanup();
    const end = level.scale.kind === 'steps' ? level.scale.max : 0;
    shown(end);
    expect(screen.getByLabelText('level up').hasAttribute('disabled')).toBe(true);
  });
});
