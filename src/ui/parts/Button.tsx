'use client';
/** Buttons: plain, and primary for the one thing to do. */
import Link from 'next/link';
import { Button as AriaButton, type ButtonProps } from 'react-aria-components';
import styled, { css } from 'styled-components';

const look = css<{ $primary?: boolean }>`
  display: inline-flex; align-items: center; gap: 7px;
  border: 1px solid var(--ink); border-radius: 3px; padding: 6px 13px; min-height: 34px;
  background: ${({ $primary }) => ($primary ? 'var(--ink)' : 'transparent')};
  color: ${({ $primary }) => ($primary ? 'var(--paper)' : 'var(--ink)')};
  text-decoration: none; cursor: pointer; font: inherit;
  &[data-hovered], &:hover { background: ${({ $primary }) => ($primary ? 'var(--signal)' : 'var(--signal-wash)')}; }
  &[data-disabled], &[data-pending] { opacity: 0.5; cursor: default; }
`;

const Styled = styled(AriaButton)<{ $primary?: boolean }>`${look}`;

export function Button({ primary, ...props }: ButtonProps & { primary?: boolean }) {
  return <Styled {...props} $primary={primary} />;
}

/** A link that looks like a button. */
export const ButtonLink = styled(Link)<{ $primary?: boolean }>`${look}`;

/** The same for a file that is saved, not a page. */
export const FileLink = styled.a<{ $primary?: boolean }>`${look}`;

/** A row of buttons. */
export const Bar = styled.div`display: flex; flex-wrap: wrap; gap: 10px; align-items: center; margin-top: 12px;`;
