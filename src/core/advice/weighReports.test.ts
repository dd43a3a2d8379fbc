import { describe, expect, it } from 'vitest';
import { readReport } from '../language/index.ts';
import type { ReportPath } from './reportPaths.ts';
import { weighReports } from './weighReports.ts';

const said = (path: ReportPath, text: string, station = 'Q1ABC') => ({ station, path, remarks: readReport(text).remarks });
const MUFFLED = { code: 'muffled', severity: 'watch', text: 'Muffled.', evidence: '6.1 dB short above 1600 Hz' } as const;

describe('reports weighed by their paths', () => {
  it('two that agree hold, and fit what is measured', () => {
    const { verdicts, askAgain } = weighReports([said('local', 'a bit muffled'), said('one-hop', 'muffled, but readable')], [MUFFLED]);
    expect(verdicts[0]).toEqual({
      code: 'muffled',
      text: 'Two say muffled (local; one hop), and it measures so: 6.1 dB short above 1600 Hz.',
      holds: true,
    });
    expect(askAgain).toBeNull();
  });

  it('one fading opinion does not, and is asked again', () => {
    const { verdicts, askAgain } = weighReports([said('fading', 'very muffled')], null);
    expect(verdicts[0].holds).toBe(false);
    expect(askAgain).toContain('ask again');
  });

  it('names a contradiction, and which side counts more', () => {
    const { verdicts } = weighReports([said('local', 'not muffled at all, sounds good'), said('weak', 'muffled')], []);
    const muffled = verdicts.find(({ code }) => code === 'muffled');
    expect(muffled).toMatchObject({ holds: false, text: expect.stringContaining('One says otherwise (local): that counts more.') });
    expect(muffled?.text).toContain('but nothing of it is measured');
    const opposite = weighReports([said('local', 'boomy'), said('local', 'thin and tinny')], null);
    expect(opposite.verdicts.every(({ holds }) => !holds)).toBe(true);
    expect(opposite.askAgain).toContain('contradict');
  });

  it('what is the path or the receiver is nobody’s fault', () => {
    expect(weighReports([said('one-hop', 'lots of QSB, and my noise reduction makes it hollow')], null).verdicts).toEqual([]);
  });

  it('says nothing of nothing', () => {
    expect(weighReports([], null)).toEqual({ verdicts: [], askAgain: null });
  });
});
