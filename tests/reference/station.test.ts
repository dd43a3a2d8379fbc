/** Station curves and widths against SciPy and NumPy, run live. */
import { describe, expect, it } from 'vitest';
import { equalizerBands } from '../../src/core/rig/equalizer.ts';
import type { RigProfile } from '../../src/core/rig/rig.ts';
import { widthReadings } from '../../src/core/rig/widthReadings.ts';
import { microphoneResponseDb, proximityDb } from '../../src/core/simulate/transmitter/microphone.ts';
import { octavesToQ, qToOctaves } from '../../src/core/units/conversions.ts';
import { microphone } from '../support/microphones.ts';
import { python } from '../support/python.ts';
import { parametricRig } from '../support/rigs.ts';

/**
 * Source: the analogue prototype of the Audio EQ Cookbook, H(s) = (s^2 + s A/Q + 1) / (s^2 + s/(A Q) + 1), its
 * half-gain points found by scipy.optimize on the response from scipy.signal.freqs.
 */
const MEASURED_WIDTH = `
from scipy.optimize import brentq
result=[]
for q in data['q']:
    A=10**(data['gain']/40)
    def db(w): return 20*np.log10(abs(sig.freqs([1,A/q,1],[1,1/(A*q),1],[w])[1][0]))-data['gain']/2
    result.append(float(np.log2(brentq(db,1,1e4)/brentq(db,1e-4,1))))
`;

describe('width conversions', () => {
  const widths = [1 / 3, 1, 2, 8];
  it('octaves between half-gain points, as SciPy measures them on the analogue bell, whatever the gain', () => {
    for (const gain of [3, 6, 12]) {
      const measured = python<number[]>(MEASURED_WIDTH, { q: widths.map(octavesToQ), gain });
      measured.forEach((octaves, i) => {
        expect(octaves).toBeCloseTo(widths[i], 6);
      });
    }
  });
  it('the table of the analogue prototype: N 1/3, 1, 2, 8', () => {
    [4.318, 1.414, 0.667, 0.063].forEach((q, i) => {
      expect(octavesToQ(widths[i])).toBeCloseTo(q, 3);
      expect(qToOctaves(octavesToQ(widths[i]))).toBeCloseTo(widths[i], 9);
    });
  });
});

describe('the two readings of a width number', () => {
  it('are the bells that scipy.signal.freqz draws for octaves and for Q', () => {
    const rig = parametricRig(1, { centres: [1000], widths: [2] });
    const unknown = { ...rig, equalizer: { ...rig.equalizer, width: { meaning: 'unknown' } } } as RigProfile;
    const hz = [200, 400, 700, 1000, 1400, 2500];
    const readings = widthReadings(unknown, equalizerBands(unknown)[0], { 'p1-centre': 1000, 'p1-level': 9, 'p1-width': 2 }, hz);
    const theirs = python<[number[], number[]]>(
      `
w0=2*np.pi*1000/48000; A=10**(9/40)
def bell(alpha): return 20*np.log10(abs(sig.freqz([1+alpha*A,-2*np.cos(w0),1-alpha*A],[1+alpha/A,-2*np.cos(w0),1-alpha/A],worN=data['hz'],fs=48000)[1]))
octaves=bell(np.sin(w0)*np.sinh(np.log(2)/2*2*w0/np.sin(w0)))
q=bell(np.sin(w0)/(2*2))
result=[octaves.tolist(),q.tolist()]`,
      { hz },
    );
    readings?.octaves.responseDb.forEach((db, i) => {
      expect(db).toBeCloseTo(theirs[0][i], 6);
    });
    // Q is turned into octaves by the analogue formula: at 1 kHz of 48 kHz the two differ by thousandths of a dB.
    readings?.q.responseDb.forEach((db, i) => {
      expect(Math.abs(db - theirs[1][i])).toBeLessThan(0.02);
    });
  });
});

describe('microphone curves', () => {
  it('run straight over log frequency, as numpy.interp has it', () => {
    const curve: [number, number][] = [
      [80, -9],
      [200, -2],
      [1000, 0],
      [2500, 4],
      [6000, -3],
    ];
    const hz = [60, 80, 120, 330, 1000, 1800, 5000, 9000];
    const flat = microphone({ pattern: 'omni', positions: [{ name: 'flat', curve }] });
    const theirs = python<number[]>(
      "result=np.interp(np.log(data['hz']),np.log([p[0] for p in data['curve']]),[p[1] for p in data['curve']]).tolist()",
      { hz, curve },
    );
    microphoneResponseDb(flat, { position: 'flat', accessories: [], distanceCm: 5 }, hz).forEach((db, i) => {
      expect(db).toBeCloseTo(theirs[i], 9);
    });
  });

  it('proximity: the derivative of a spherical wave, taken numerically by NumPy', () => {
    const cases = [0.5, 0.37, 0.25, 0].flatMap((a) => [3, 6, 15].flatMap((cm) => [100, 400, 2000].map((hz) => ({ a, cm, hz }))));
    const theirs = python<number[]>(
      `
result=[]
for c in data['cases']:
    k=2*np.pi*c['hz']/343; r=c['cm']/100
    grid=r+np.arange(-3,4)*1e-4
    p=np.exp(-1j*k*grid)/grid
    slope=-np.polyfit(grid-r,p,4)[-2]/(1j*k)
    result.append(float(20*np.log10(abs(c['a']*p[3]+(1-c['a'])*slope)/abs(p[3]))))`,
      { cases },
    );
    const patterns = { 0.5: 'cardioid', 0.37: 'supercardioid', 0.25: 'hypercardioid', 0: 'figure-8' } as const;
    cases.forEach(({ a, cm, hz }, i) => {
      expect(proximityDb(patterns[a as keyof typeof patterns], cm, hz)).toBeCloseTo(theirs[i], 2);
    });
  });
});
