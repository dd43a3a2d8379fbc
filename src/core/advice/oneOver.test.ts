import { describe, expect, it } from 'vitest';
import type { Finding, FindingCode } from '../findings/index.ts';
import type { ReceiverKind } from '../measure/index.ts';
import { monitorWorth } from './levelSpread.ts';
import { type Hearing, oneOver } from './oneOver.ts';

const finding = (code: FindingCode): Finding => ({ code, severity: 'watch', text: code, evidence: '' });
const FLAT: [number, number][] = [200, 250, 315, 400, 500, 630, 800, 1000, 1250, 1600, 2000, 2500].map((hz) => [hz, -6]);
const hearing = (name: string, kind: ReceiverKind, codes: FindingCode[] = [], extra: { snrDb?: number; tilt?: number } = {}): Hearing => ({
  name,
  kind,
  measurement: {
    snrDb: extra.snrDb ?? 30,
    findings: codes.map(finding),
    thirdOctaveDb: FLAT.map(([hz, db]) => [hz, db + (hz >= 1600 ? (extra.tilt ?? 0) : 0)]),
  },
});

describe('one over on many receivers', () => {
  it('what all that count hear is yours', () => {
    const { shared, sentence } = oneOver([
      hearing('Shack', 'local', ['muffled']),
      hearing('Hill', 'remote', ['muffled']),
      hearing('Mainland', 'remote', ['muffled']),
    ]);
    expect(shared).toEqual([{ code: 'muffled', whose: 'yours', text: 'muffled on all 3 that count: that is yours.' }]);
    expect(sentence).toBe('Three receivers agree: muffled. That is yours.');
  });

  it('what one hears is its path', () => {
    const { shared, sentence } = oneOver([
      hearing('Shack', 'local'),
      hearing('Hill', 'remote'),
      hearing('Mainland', 'remote', ['room-noise']),
    ]);
    expect(shared[0].whose).toBe('path');
    expect(sentence).toBe(
      'Three receivers agree on no fault of yours. Room noise on Mainland alone, not on the other 2: its path or its filter.',
    );
  });

  it('a sound over is accused of nothing', () => {
    const { shared, sentence } = oneOver([hearing('Shack', 'local'), hearing('Hill', 'remote')]);
    expect(shared).toEqual([]);
    expect(sentence).toBe('Two receivers agree on no fault of yours.');
  });

  it('monitor, tap and weak paths do not count for tone, and say why', () => {
    const { lines, shared, sentence } = oneOver([
      hearing('Monitor', 'monitor', ['muffled']),
      hearing('Tap', 'in-line', ['muffled']),
      hearing('Far', 'remote', ['muffled'], { snrDb: 5 }),
    ]);
    expect(lines.every(({ counts }) => !counts)).toBe(true);
    expect(lines.map(({ text }) => text)).toEqual([
      'taps the audio early: it is not the transmitted signal',
      'taps the line: it can’t show faults of the antenna or the path',
      'only 5 dB above the noise: do not judge tone by it',
    ]);
    expect(shared[0].whose).toBe('open');
    expect(sentence).toContain('No receiver here can be trusted');
  });

  it('heard off the air but not in the line: behind the tap', () => {
    const { shared } = oneOver([
      hearing('Tap', 'in-line'),
      hearing('Shack', 'local', ['distortion']),
      hearing('Hill', 'remote', ['distortion']),
    ]);
    expect(shared[0].text).toContain('The tap in the line (Tap) does not hear it');
  });

  it('one receiver alone settles nothing; split votes ask again', () => {
    expect(oneOver([hearing('Shack', 'local', ['harsh'])]).shared[0].whose).toBe('open');
    const split = oneOver(['a', 'b', 'c', 'd'].map((name, i) => hearing(name, 'remote', i < 2 ? ['thin'] : [])));
    expect(split.shared[0]).toMatchObject({ whose: 'open', text: 'thin on 2 of 4: ask again, and listen yourself.' });
  });

  it('names the receiver whose filter takes highs away', () => {
    const { lines } = oneOver([hearing('Shack', 'local'), hearing('Hill', 'remote'), hearing('Dull', 'remote', [], { tilt: -8 })]);
    expect(lines[2].text).toBe('7 dB fewer highs than the others');
    expect(lines[0].text).toBe('');
  });
});

describe('hearing oneself', () => {
  const over = (hasMonitor: boolean | null, levelSpreadDb: number | null) => ({ hasMonitor, levelSpreadDb });
  it('is worth the difference of the medians', () => {
    const worth = monitorWorth([over(true, 4), over(true, 5), over(false, 9), over(null, 20), over(false, null)]);
    expect(worth).toMatchObject({ withDb: 4.5, withoutDb: 9 });
    expect(worth?.text).toContain('Hearing yourself is worth 4.5 dB');
  });
  it('says nothing where nothing was noted, asks where one way is missing, and makes nothing of scatter', () => {
    expect(monitorWorth([over(null, 5)])).toBeNull();
    expect(monitorWorth([over(false, 6)])?.text).toContain('Record one with it');
    expect(monitorWorth([over(true, 6), over(false, 6.5)])?.text).toContain('no difference');
    expect(monitorWorth([over(true, 9), over(false, 6)])?.text).toContain('less steadily');
  });
});
