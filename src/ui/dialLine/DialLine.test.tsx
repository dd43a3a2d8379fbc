// @vitest-environment jsdom
import { cleanup, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { twoBankRig } from '../../../tests/support/rigs.ts';
import { factoryCard } from '../../core/rig/card.ts';
import { DialLine, type LineOutcome } from './DialLine.tsx';

afterEach(cleanup);
const rig = twoBankRig();
const shown = (outcome: LineOutcome) => {
  const enter = vi.fn(async () => outcome);
  render(<DialLine rig={rig} card={factoryCard(rig)} enter={enter} />);
  return { enter, input: screen.getByRole('textbox') as HTMLInputElement };
};
const [micGain] = rig.dials;

describe('the dial line', () => {
  it('says what will happen, does it at Enter, and is empty again', async () => {
    const { enter, input } = shown({ isDone: true, text: 'On the card as revision 2.' });
    await userEvent.type(input, 'mic 30');
    expect(screen.getByText(new RegExp(micGain.label, 'i'))).toBeTruthy();
    await userEvent.keyboard('{Enter}');
    expect(enter).toHaveBeenCalledTimes(1);
    expect(enter).toHaveBeenCalledWith(expect.objectContaining({ kind: 'do' }), 'mic 30');
    await waitFor(() => expect(input.value).toBe(''));
    expect(screen.getByText('On the card as revision 2.')).toBeTruthy();
  });

  it('keeps what was typed when it was refused', async () => {
    const { input } = shown({ isDone: false, text: 'The server did not answer.' });
    await userEvent.type(input, 'mic 31{Enter}');
    expect(await screen.findByText('The server did not answer.')).toBeTruthy();
    expect(input.value).toBe('mic 31');
  });

  it('what it does not understand changes nothing', async () => {
    const { enter, input } = shown({ isDone: true, text: '' });
    await userEvent.type(input, 'flurb the knob{Enter}');
    expect(enter).not.toHaveBeenCalled();
  });
});
