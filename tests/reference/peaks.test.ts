/**
 * What an equalizer does to the loud moments of talk, which an ALC follows: worked out from a voice's spectra alone, held against
 * recorded voices that NumPy sends through random equalizers, their loud hundredths of a second counted.
 */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, expect, it } from 'vitest';
import { levelChangeDb, peakChangeDb } from '../../src/core/advice/toneError.ts';
import { TWELFTH_CENTRES } from '../../src/core/dsp/spectrum/bands.ts';
import { mean } from '../../src/core/dsp/statistics/statistics.ts';
import { bytesInMemory } from '../../src/core/files/byteSource.ts';
import { openWav } from '../../src/core/files/samples.ts';
import type { VoiceDetail } from '../../src/core/measure/measurement.ts';
import { measureVoice } from '../../src/core/measure/voice/voice.ts';
import { python } from '../support/python.ts';

const PASSBAND_HZ: [number, number] = [150, 2900];
const TEXTS = ['a', 'b', 'c', 'd', 'e', 'f'].flatMap((voice) => [0, 1].map((text) => `${voice}-${text}.wav`));
/** For each text. */
const EQUALIZERS = 12;
const folder = mkdtempSync(join(tmpdir(), 'dialtune-peaks-'));
afterAll(() => rmSync(folder, { recursive: true }));

/** Three bells each, up to 10 dB, wherever they fall; and by how much the 95th percentile of the talk's frames moves. */
const SCRIPT = `
from scipy.io import wavfile
dice=np.random.default_rng(5)
def db(x): return 10*np.log10(np.maximum(x,1e-20))
def curve(hz,bells): return sum(l*np.exp(-np.log(2)*(2*np.log2(np.maximum(hz,1)/c)/w)**2) for c,w,l in bells)
def peak(x,rate):
    n=rate//100
    frames=db((x[:len(x)//n*n].reshape(-1,n)**2).mean(1))
    return np.percentile(frames[frames>frames.max()-25],95)
result=[]
for name in data['texts']:
    rate,x=wavfile.read(data['folder']+'/'+name)
    hz=np.fft.rfftfreq(len(x),1/rate)
    low,high=data['passband']
    band=-db(1+(low/np.maximum(hz,1))**12)-db(1+(hz/high)**40)
    sent=np.fft.rfft(x/32768)*10**(band/20)
    before=peak(np.fft.irfft(sent,len(x)),rate)
    for _ in range(data['count']):
        bells=[(np.exp(dice.uniform(np.log(150),np.log(3000))),dice.uniform(.5,2),dice.uniform(-10,10)) for _ in range(3)]
        after=peak(np.fft.irfft(sent*10**(curve(hz,bells)/20),len(x)),rate)
        result.append({'name':name,'moved':after-before,'curve':curve(np.array(data['hz']),bells).tolist()})
`;

it('the loud moments are foreseen, and better than by the change of power', async () => {
  execFileSync('/usr/bin/python3', ['tests/validation/overs.py', folder]);
  const trials = python<{ name: string; moved: number; curve: number[] }[]>(SCRIPT, {
    folder,
    texts: TEXTS,
    passband: PASSBAND_HZ,
    count: EQUALIZERS,
    hz: TWELFTH_CENTRES,
  });
  const details = new Map<string, VoiceDetail>();
  for (const name of TEXTS) {
    const source = await openWav(bytesInMemory(new Uint8Array(readFileSync(join(folder, name)))));
    details.set(name, (await measureVoice(source, { passbandHz: PASSBAND_HZ })).detail);
  }
  const flat = TWELFTH_CENTRES.map(() => 0);
  const missOf = (foresee: (detail: VoiceDetail, curve: number[]) => number) =>
    Math.sqrt(
      mean(
        trials.map(({ name, moved, curve }) => {
          const detail = details.get(name);
          if (!detail) throw new Error(name);
          return (foresee(detail, curve) - moved) ** 2;
        }),
      ),
    );
  const byPeaks = missOf((detail, curve) => peakChangeDb(detail, flat, curve, PASSBAND_HZ));
  const byPower = missOf((detail, curve) => levelChangeDb(detail, curve, PASSBAND_HZ));
  console.log(`loud moments missed by ${byPeaks.toFixed(2)} dB RMS, by power alone ${byPower.toFixed(2)} dB`);
  expect(trials).toHaveLength(TEXTS.length * EQUALIZERS);
  expect(byPeaks).toBeLessThan(0.65);
  expect(byPeaks).toBeLessThan(0.85 * byPower);
}, 300_000);
