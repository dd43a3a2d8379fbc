/**
 * What an equalizer does to the loud moments of talk, which an ALC follows, and to the next channel behind an amplifier that bends:
 * worked out from a voice's spectra alone, held against recorded voices that NumPy sends through random equalizers, their loud
 * hundredths of a second counted, and through soft amplifiers (C. Rapp 1991) held at one peak.
 */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, expect, it } from 'vitest';
import { nextChannelChangeDb } from '../../src/core/advice/thirdOrder.ts';
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

/** Three bells each, up to 10 dB, wherever they fall; by how much the 95th percentile of the talk's frames moves, and the next channel. */
const SCRIPT = `
from scipy.io import wavfile
import scipy.signal as sig
dice=np.random.default_rng(5)
def db(x): return 10*np.log10(np.maximum(x,1e-20))
def curve(hz,bells): return sum(l*np.exp(-np.log(2)*(2*np.log2(np.maximum(hz,1)/c)/w)**2) for c,w,l in bells)
def peak(x,rate):
    n=rate//100
    frames=db((x[:len(x)//n*n].reshape(-1,n)**2).mean(1))
    return np.percentile(frames[frames>frames.max()-25],95)
def adjacent(x,rate,knee,smooth):
    z=sig.hilbert(x)
    z=z/np.percentile(np.abs(z),99)
    z=z/(1+(np.abs(z)/10**(knee/20))**(2*smooth))**(1/(2*smooth))
    hz,power=sig.welch(z,rate,'hann',2048,return_onesided=False)
    part=lambda low,high: power[(hz>=low)&(hz<=high)].sum()
    return max(float(db(part(low,high)/part(100,3000))) for low,high in ((3300,6300),(-6300,-3300)))
result=[]
for name in data['texts']:
    rate,x=wavfile.read(data['folder']+'/'+name)
    hz=np.fft.rfftfreq(len(x),1/rate)
    low,high=data['passband']
    band=-db(1+(low/np.maximum(hz,1))**12)-db(1+(hz/high)**40)
    sent=np.fft.rfft(x/32768)*10**(band/20)
    plain=np.fft.irfft(sent,len(x))
    before=peak(plain,rate)
    for _ in range(data['count']):
        bells=[(np.exp(dice.uniform(np.log(150),np.log(3000))),dice.uniform(.5,2),dice.uniform(-10,10)) for _ in range(3)]
        heard=np.fft.irfft(sent*10**(curve(hz,bells)/20),len(x))
        after=peak(heard,rate)
        amplifier=(dice.uniform(0,1),dice.uniform(2,4))
        filled=adjacent(heard,rate,*amplifier)-adjacent(plain,rate,*amplifier)
        result.append({'name':name,'moved':after-before,'filled':filled,'curve':curve(np.array(data['hz']),bells).tolist()})
`;

it('the loud moments are foreseen, better than by the change of power, and so is the next channel', async () => {
  execFileSync('/usr/bin/python3', ['tests/validation/overs.py', folder]);
  const trials = python<{ name: string; moved: number; filled: number; curve: number[] }[]>(SCRIPT, {
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
  const missOf = (what: 'moved' | 'filled', foresee: (detail: VoiceDetail, curve: number[]) => number) =>
    Math.sqrt(
      mean(
        trials.map(({ name, curve, [what]: came }) => {
          const detail = details.get(name);
          if (!detail) throw new Error(name);
          return (foresee(detail, curve) - came) ** 2;
        }),
      ),
    );
  const byPeaks = missOf('moved', (detail, curve) => peakChangeDb(detail, flat, curve, PASSBAND_HZ));
  const byPower = missOf('moved', (detail, curve) => levelChangeDb(detail, curve, PASSBAND_HZ));
  console.log(`loud moments missed by ${byPeaks.toFixed(2)} dB RMS, by power alone ${byPower.toFixed(2)} dB`);
  expect(trials).toHaveLength(TEXTS.length * EQUALIZERS);
  expect(byPeaks).toBeLessThan(0.65);
  expect(byPeaks).toBeLessThan(0.85 * byPower);
  const filled = missOf('filled', (detail, curve) => nextChannelChangeDb(detail, flat, [flat, curve], PASSBAND_HZ));
  const byNothing = missOf('filled', () => mean(trials.map((trial) => trial.filled)));
  console.log(`next channel missed by ${filled.toFixed(2)} dB RMS, of ${byNothing.toFixed(2)} dB`);
  expect(byNothing).toBeGreaterThan(3);
  expect(filled).toBeLessThan(1.7);
}, 300_000);
