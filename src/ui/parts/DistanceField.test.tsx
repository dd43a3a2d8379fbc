// @vitest-environment jsdom
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, expect, it, vi } from 'vitest';
import { DistanceContext } from '../distance.ts';
import { DistanceField } from './DistanceField.tsx';

afterEach(cleanup);

it('inches are typed and refused as inches, and kept as centimetres', async () => {
  const onChange = vi.fn<(cm: number) => void>();
  render(
    <DistanceContext value="in">
      <DistanceField label="Talking distance" cm={5.08} rangeCm={[0.5, 200]} onChange={onChange} />
    </DistanceContext>,
  );
  const input = screen.getByLabelText('Talking distance, in') as HTMLInputElement;
  expect(input.value).toBe('2');
  await userEvent.clear(input);
  await userEvent.type(input, '4');
  expect(onChange).toHaveBeenLastCalledWith(10.16);
  await userEvent.type(input, '00');
  expect(screen.getByText('0.2 to 78.7 in.')).toBeTruthy();
});
