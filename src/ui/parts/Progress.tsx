'use client';
/** Progress of long work, with a word for what is going on. */
import { Label, ProgressBar } from 'react-aria-components';
import styled from 'styled-components';

const Root = styled(ProgressBar)`display: grid; gap: 4px; font-size: 13.5px;
  .track { height: 6px; background: var(--grid); border-radius: 3px; overflow: hidden; }
  .fill { height: 100%; background: var(--signal); transition: width 0.2s; }
  .line { display: flex; justify-content: space-between; gap: 12px; }`;

/** @param share 0 to 1 */
export function Progress({ label, share }: { label: string; share: number }) {
  return (
    <Root value={100 * share}>
      {({ percentage, valueText }) => (
        <>
          <span className="line">
            <Label>{label}</Label>
            <span className="mono">{valueText}</span>
          </span>
          <span className="track">
            <span className="fill" style={{ display: 'block', width: `${percentage}%` }} />
          </span>
        </>
      )}
    </Root>
  );
}
