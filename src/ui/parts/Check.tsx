'use client';
/** A box to tick, with its label. */
import { Check as Mark } from 'lucide-react';
import { Checkbox, type CheckboxProps } from 'react-aria-components';
import styled from 'styled-components';

const Root = styled(Checkbox)`
  display: inline-flex; align-items: center; gap: 8px; cursor: pointer; vertical-align: middle;
  .box { width: 20px; height: 20px; border: 1.5px solid var(--ink); border-radius: 2px; display: grid; place-items: center; background: var(--sheet); flex: none; }
  &[data-focus-visible] { outline: none; }
  &[data-focus-visible] .box { outline: 3px solid var(--signal); outline-offset: 2px; }
  &[data-disabled] { opacity: 0.5; }`;

export function Check({ children, ...props }: Omit<CheckboxProps, 'children'> & { children?: React.ReactNode }) {
  return (
    <Root {...props}>
      {({ isSelected }) => (
        <>
          <span className="box">{isSelected && <Mark size={16} strokeWidth={3} aria-hidden />}</span>
          {children}
        </>
      )}
    </Root>
  );
}
