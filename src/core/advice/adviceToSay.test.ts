import { describe, expect, it } from 'vitest';
import type { Finding, FindingCode } from '../findings/index.ts';
import { readDialLine } from '../language/index.ts';
import { factoryCard, guestRig } from '../rig/index.ts';
import { adviceToSay, type ToSay } from './adviceToSay.ts';
import type { FittedMove } from './fitEqualizer.ts';

const rig = guestRig({ name: 'guest', shape: 'graphic', frequencies: '200 400 800 1.6k 2.4k', bands: 3, reach: 12 });
const dial = (id: string) => {
  const found = rig.dials.find((each) => each.id === id);
  if (!found) throw new Error(id);
  return found;
};
const move = (id: string, from: number | string, to: number | string): FittedMove => ({ dial: dial(id), from, to, why: '' });
const finding = (code: FindingCode): Finding => ({ code, severity: 'watch', text: '', evidence: '' });
const IN_ZONE = { reading: 0.4, isStale: false };
const heard = (changes: Partial<ToSay> = {}): ToSay => ({
  rig,
  mode: 'usb',
  moves: [],
  errorDb: 0.8,
  findings: [],
  told: new Set(),
  alc: IN_ZONE,
  ...changes,
});

describe('what to say to the other station', () => {
  it('a sound signal is told so, and nothing else', () => {
    expect(adviceToSay(heard())).toEqual(['You sound good here: leave the dials as they are, and write the numbers down.']);
    expect(adviceToSay(heard({ moves: [move('eq-2400', 0, 1)], errorDb: 1 }))).toHaveLength(1);
  });

  it('is relative, and says where it ends only where they told where it stands', () => {
    const moves = [move('eq-2400', 0, 3), move('eq-400', 9, 4)];
    const words = adviceToSay(heard({ moves, errorDb: 4, told: new Set(['eq-400']) }));
    expect(words.slice(0, 2)).toEqual([
      'Three more at 2.4 kHz than you have now.',
      'Five less at 400 Hz than you have now: that makes plus four.',
    ]);
    expect(words.at(-1)).toContain('look at the ALC again');
  });

  it('what is said comes out right when it is typed as it is heard', () => {
    const card = { ...factoryCard(rig), values: { ...factoryCard(rig).values, 'eq-2400': 2 } };
    const [words] = adviceToSay(heard({ moves: [move('eq-2400', 0, 3)], errorDb: 4 }));
    const line = readDialLine(words.replace(' than you have now.', ''), rig, card);
    expect(line.kind === 'do' && line.moves.map(({ to }) => to)).toEqual([5]);
  });

  it('never more than six steps at once', () => {
    const [words] = adviceToSay(heard({ moves: [move('eq-2400', -3, 10)], errorDb: 7, told: new Set(['eq-2400']) }));
    expect(words).toBe('Six more at 2.4 kHz than you have now: that makes plus three.');
  });

  it('never more than three dials at a time', () => {
    const moves = ['eq-200', 'eq-400', 'eq-800', 'eq-1600', 'eq-2400'].map((id) => move(id, 0, 4));
    expect(adviceToSay(heard({ moves, errorDb: 6 })).filter((line) => line.includes('than you have now'))).toHaveLength(3);
    const [first, ...others] = adviceToSay(
      heard({
        moves: [move('eq-200', 0, 1), move('eq-400', 0, -2), move('eq-800', 0, 1), move('eq-1600', 0, 3), move('eq-2400', 0, 6)],
        errorDb: 6,
      }),
    );
    expect([first, ...others.slice(0, 2)].map((line) => line.split(' than')[0])).toEqual([
      'Two less at 400 Hz',
      'Three more at 1.6 kHz',
      'Six more at 2.4 kHz',
    ]);
  });

  it('faults come before tone, the room with it', () => {
    const moves = [move('eq-2400', 0, 3)];
    const fault = adviceToSay(heard({ moves, errorDb: 4, findings: [finding('splatter'), finding('muffled')] }));
    expect(fault.join(' ')).toContain('mic gain down');
    expect(fault.join(' ')).not.toContain('2.4 kHz');
    expect(adviceToSay(heard({ moves, errorDb: 4, findings: [finding('plosives')] }))[0]).toContain('windscreen');
    expect(adviceToSay(heard({ findings: [finding('hum')] }))[0]).toContain('hum');
  });

  it('asks for a voice and the ALC before it judges, and for the ALC again after a move', () => {
    expect(adviceToSay(heard({ moves: null, alc: null })).join(' ')).toMatch(/fifteen seconds.*ALC/);
    expect(adviceToSay(heard({ alc: { reading: 0.4, isStale: true } })).join(' ')).toContain('what does your ALC show now');
    expect(adviceToSay(heard({ alc: { reading: 0.9, isStale: false } }))[0]).toContain('turn the mic gain down');
    expect(adviceToSay(heard({ alc: { reading: 0, isStale: false } }))[0]).toContain('turn the mic gain up');
  });
});
