/**
 * Source: SciPy, run live from Debian's package: filters, spectra, two-tone products and noise of the transmitter
 * model, STOI by an independent script of the paper's steps, and the index of ANSI S3.5 written anew in Python. Also
 * the other way round: what the simulated station sends is measured by the evidence part, which must find what was
 * put in.
 */
import { describe, expect, it } from 'vitest';
import { bytesInMemory } from '../../src/core/files/byteSource.ts';
import { openWav } from '../../src/core/files/samples.ts';
import { writeWav } from '../../src/core/files/wavWriter.ts';
import {
  BAND_IMPORTANCE,
  NORMAL_SPEECH,
  SII_BANDS,
  speechIntelligibilityIndex,
} from '../../src/core/intelligibility/speechIntelligibility.ts';
import { stoi } from '../../src/core/intelligibility/stoi.ts';
import type { FmMeasurement, SsbMeasurement, TwoToneMeasurement } from '../../src/core/measure/measurement.ts';
import { measureRecording } from '../../src/core/measure/measureRecording.ts';
import { factoryCard } from '../../src/core/rig/card.ts';
import { Simulation } from '../../src/core/simulate/station/simulate.ts';
import { parseStation } from '../../src/core/simulate/station/stationFile.ts';
import { amplifierStage, USUAL_AMPLIFIER } from '../../src/core/simulate/transmitter/amplifier.ts';
import { QUIET_ROOM } from '../../src/core/simulate/transmitter/microphoneStage.ts';
import { parametersOf } from '../../src/core/simulate/transmitter/parameters.ts';
import { transmit } from '../../src/core/simulate/transmitter/transmitter.ts';
import { python } from '../support/python.ts';
import { options, parametricRig, rigOf, steps, values } from '../support/rigs.ts';
import { mix, noise, sine, voiceLike } from '../support/signals.ts';

const RATE = 24000;
const SILENT = { microphone: null, use: null, room: { ...QUIET_ROOM, noiseDb: null }, seed: 1 };

describe('the transmitter model against SciPy', () => {
  const rig = parametricRig(3, { centres: [200, 1000, 2400], levels: [-12, 12, 1], widths: [1, 2] });
  const card = {
    ...factoryCard(rig, 'usb'),
    values: { ...factoryCard(rig, 'usb').values, 'p1-centre': 200, 'p1-level': -6, 'p3-centre': 2400, 'p3-level': 9 },
  };
  const parameters = parametersOf(rig, card);

  it('equalizer and passband: the spectrum of noise at the passband tap within 0.3 dB', () => {
    const samples = noise(RATE, 20, 0.05);
    const { signal } = transmit(
      samples,
      { ...parameters, micGainDb: 0 },
      { inputRateHz: RATE, voiceGainDb: 0, microphone: SILENT, upTo: 'passband' },
    );
    const ours = python<number[]>(
      `
x=np.array(data['x']); y=np.array(data['y']); fs=data['fs']
sos=np.array([[b['b0'],b['b1'],b['b2'],1,b['a1'],b['a2']] for b in data['bands']])
f,pin=sig.welch(x,fs,nperseg=2048); _,pout=sig.welch(y,fs,nperseg=2048)
_,h=sig.sosfreqz(sos,worN=f,fs=fs)
want=20*np.log10(np.abs(h)); got=10*np.log10(pout/pin)
inside=(f>450)&(f<2500)
result=(got-want)[inside].tolist()`,
      { x: Array.from(samples), y: Array.from(signal.i), fs: RATE, bands: parameters.equalizer },
    );
    const mean = ours.reduce((a, b) => a + b, 0) / ours.length;
    expect(Math.abs(mean)).toBeLessThan(0.05);
    // Welch's scatter of 20 s in windows of 85 ms is the same for both, so the ratio is exact but for edges.
    expect(Math.max(...ours.map(Math.abs))).toBeLessThan(0.3);
  });

  it('two-tone products of the amplifier, third and fifth order, within 0.05 dB', () => {
    const n = RATE;
    const part = (f: (x: number) => number) =>
      Float64Array.from({ length: n }, (_, k) => 0.5 * (f((2 * Math.PI * 700 * k) / RATE) + f((2 * Math.PI * 1900 * k) / RATE)));
    const out = amplifierStage(USUAL_AMPLIFIER).push({ i: part(Math.cos), q: part(Math.sin) });
    const lines = (i: Float64Array, q: Float64Array) =>
      python<number[]>(
        "z=np.array(data['i'])+1j*np.array(data['q']); s=np.abs(np.fft.fft(z))/len(z); result=[20*np.log10(s[k]) for k in (700,1900,3100,-500,4300,-1700)]",
        {
          i: Array.from(i),
          q: Array.from(q),
        },
      );
    const theirs = python<number[]>(
      `
t=np.arange(data['n'])/data['fs']; z=0.5*(np.exp(2j*np.pi*700*t)+np.exp(2j*np.pi*1900*t))
a=10**(data['saturationDb']/20); z=z/(1+(np.abs(z)/a)**(2*data['smoothness']))**(1/(2*data['smoothness']))
s=np.abs(np.fft.fft(z))/len(z); result=[20*np.log10(s[k]) for k in (700,1900,3100,-500,4300,-1700)]`,
      { n, fs: RATE, ...USUAL_AMPLIFIER },
    );
    for (const [k, db] of lines(out.i, out.q).entries()) expect(Math.abs(db - theirs[k])).toBeLessThan(0.05);
  });

  it('compression gain: the rise of mean power at equal peak, for clipped noise, within 0.2 dB', () => {
    const samples = noise(RATE, 20, 0.05);
    const mean = (compressionDb: number) => {
      const driven = { ...parameters, equalizer: [], micGainDb: 22, compression: { kind: 'rf' as const, compressionDb, ceilingDb: 4 } };
      const { signal } = transmit(samples, driven, { inputRateHz: RATE, voiceGainDb: 0, microphone: SILENT, upTo: 'passband' });
      return signal;
    };
    const [plain, clipped] = [mean(0), mean(10)];
    const [ours, theirs] = python<[number, number]>(
      `
fs=data['fs']
taps=sig.firwin(605,1200,fs=fs,window=('kaiser',7.857))
band=2*taps*np.exp(2j*np.pi*1500/fs*(np.arange(605)-302))
x=np.array(data['x'])*10**(22/20)
z=sig.oaconvolve(x.astype(complex),band,mode='same')
c=z*np.minimum(10**(10/20),10**(4/20)/np.maximum(np.abs(z),1e-12)); c=sig.oaconvolve(c,band/2,mode='same')
def crest(z):
  p=np.abs(z[2000:-2000])**2
  return 10*np.log10(np.mean(p)/np.percentile(p,99.9))
a=np.array(data['a'][0])+1j*np.array(data['a'][1]); b=np.array(data['b'][0])+1j*np.array(data['b'][1])
result=[crest(b)-crest(a),crest(c)-crest(z)]`,
      {
        fs: RATE,
        x: Array.from(samples),
        a: [Array.from(plain.i), Array.from(plain.q)],
        b: [Array.from(clipped.i), Array.from(clipped.q)],
      },
    );
    expect(theirs).toBeGreaterThan(3);
    expect(Math.abs(ours - theirs)).toBeLessThan(0.2);
  });
});

describe('intelligibility against independent scripts', () => {
  it('SII over noises of many shapes and levels', () => {
    const cases = Array.from({ length: 30 }, (_, k) => ({
      speech: NORMAL_SPEECH.map((level, b) => level + 12 * Math.sin(k + b / 3)),
      noise: NORMAL_SPEECH.map((level, b) => level - 15 + k + 10 * Math.cos(k * b)),
    }));
    const theirs = python<number[]>(
      `
f=np.array(data['bands'],float); I=np.array(data['importance']); U=np.array(data['normal'])
X=np.array([0.6,-1.7,-3.9,-6.1,-8.2,-9.7,-10.8,-11.9,-12.5,-13.5,-15.4,-17.7,-21.2,-24.2,-25.9,-23.6,-15.8,-7.1])
def sii(E,N):
  B=np.maximum(N,E-24); C=-80+0.6*(B+10*np.log10(f)-6.353); Z=np.empty(18); Z[0]=B[0]
  for i in range(1,18):
    Z[i]=10*np.log10(10**(0.1*N[i])+sum(10**(0.1*(B[k]+3.32*C[k]*np.log10(0.89*f[i]/f[k]))) for k in range(i)))
  D=np.maximum(Z,X); L=np.minimum(1,1-(E-U-10)/160); K=np.clip((E-D+15)/30,0,1)
  return float(np.sum(I*L*K))
result=[sii(np.array(c['speech']),np.array(c['noise'])) for c in data['cases']]`,
      { bands: SII_BANDS, importance: BAND_IMPORTANCE, normal: NORMAL_SPEECH, cases },
    );
    for (const [k, { speech, noise }] of cases.entries()) expect(speechIntelligibilityIndex(speech, noise)).toBeCloseTo(theirs[k], 6);
  });

  it.each([0.002, 0.02, 0.1])('STOI in noise of %f within 0.01', (level) => {
    const clean = voiceLike(10000, 5);
    const heard = mix(clean, noise(10000, 5, level, 7));
    const theirs = python<number>(
      `
x=np.array(data['x']); y=np.array(data['y'])
w=np.hanning(258)[1:-1]
def frames(s): return np.stack([w*s[i:i+256] for i in range(0,len(s)-255,128)])
X=frames(x); Y=frames(y); e=20*np.log10(np.linalg.norm(X,axis=1)+1e-300); keep=e>e.max()-40
def again(F):
  F=F[keep]; out=np.zeros((len(F)-1)*128+256)
  for k,row in enumerate(F): out[k*128:k*128+256]+=row
  return out
x=again(X); y=again(Y)
S=lambda s: np.abs(np.fft.rfft(frames(s),512,axis=1)).T**2
k=np.arange(15); lo=150*2**((2*k-1)/6); hi=150*2**((2*k+1)/6); f=np.linspace(0,5000,257)
near=lambda v: int(np.argmin((f-v)**2))
H=np.zeros((15,257))
for b in range(15): H[b,near(lo[b]):near(hi[b])]=1
A=np.sqrt(H@S(x)); B=np.sqrt(H@S(y)); d=[]
for m in range(30,A.shape[1]+1):
  a=A[:,m-30:m]; b=B[:,m-30:m]
  b=b*np.linalg.norm(a,axis=1,keepdims=True)/(np.linalg.norm(b,axis=1,keepdims=True)+1e-16)
  b=np.minimum(b,a*(1+10**(15/20)))
  a=a-a.mean(1,keepdims=True); b=b-b.mean(1,keepdims=True)
  d.append(np.sum(a*b,1)/(np.linalg.norm(a,axis=1)*np.linalg.norm(b,axis=1)+1e-16))
result=float(np.mean(d))`,
      { x: Array.from(clean), y: Array.from(heard) },
    );
    expect(Math.abs((stoi(clean, heard, 10000) ?? 0) - theirs)).toBeLessThan(0.01);
  });
});

describe('what a simulated station hides is found by the evidence part', () => {
  const rig = rigOf({
    modes: ['usb', 'lsb', 'fm'],
    dials: [
      steps('gain', 0, 100, 1, { stage: 'gain', role: 'mic-gain', unit: '', rest: 50 }),
      values('low', [200, 300], 300, { stage: 'passband' }),
      values('high', [2700, 2900], 2700, { stage: 'passband' }),
      options('width', ['wide', 'narrow'], 'wide', { stage: 'on-air', role: 'fm-width', modes: ['fm'] }),
    ],
    equalizer: { kind: 'none' },
    passbands: [{ kind: 'edges', modes: ['usb', 'lsb', 'fm'], low: 'low', high: 'high' }],
  });
  const send = async (file: object, samples: Float64Array, rateHz = RATE) => {
    const station = parseStation({ rig, card: {}, receivers: [{ snrDb: 70 }], ...file });
    const voice = await openWav(bytesInMemory(writeWav({ sampleRateHz: rateHz, channels: 1, bits: 32, encoding: 'float' }, [samples])));
    const simulation = new Simulation(voice, station, 0, { receiver: station.receivers[0], isIq: true });
    const parts: (readonly Float64Array[])[] = [];
    for await (const block of simulation.blocks()) parts.push(block.map((each) => each.slice()));
    const channels = [0, 1].map((c) => Float64Array.from(parts.flatMap((block) => Array.from(block[c]))));
    return openWav(bytesInMemory(writeWav({ sampleRateHz: simulation.sampleRateHz, channels: 2, bits: 24, encoding: 'pcm' }, channels)));
  };
  const quiet = { room: { noiseDb: null } };

  it('the opposite sideband, on either sideband', async () => {
    for (const mode of ['usb', 'lsb'] as const) {
      const truth = { ...quiet, balance: { carrierDb: null, oppositeDb: -38 }, amplifier: { saturationDb: 40 } };
      const iq = await send({ mode, card: { gain: 45 }, truth }, voiceLike(RATE, 5, { level: 0.05 }));
      const m = (await measureRecording('ssb', iq, { sideband: mode })).measurement as SsbMeasurement;
      expect(Math.abs((m.oppositeSidebandDb ?? 0) - -38)).toBeLessThan(0.5);
    }
  });

  it('filter edges that lie off what the dials say', async () => {
    const hiss = noise(RATE, 20, 0.02);
    const iq = await send({ card: { gain: 20 }, truth: { ...quiet, passbandError: [40, -90], amplifier: { saturationDb: 40 } } }, hiss);
    const reference = await openWav(bytesInMemory(writeWav({ sampleRateHz: RATE, channels: 1, bits: 32, encoding: 'float' }, [hiss])));
    const m = (await measureRecording('ssb', iq, { reference })).measurement as SsbMeasurement;
    expect(Math.abs((m.passbandHz?.[0] ?? 0) - 340)).toBeLessThan(12);
    expect(Math.abs((m.passbandHz?.[1] ?? 0) - 2610)).toBeLessThan(12);
  });

  it('linearity: two tones at full drive', async () => {
    const tones = sine(RATE, 700, 4, 0.05).map((x, n) => x + 0.05 * Math.sin((2 * Math.PI * 1900 * n) / RATE));
    const imd = async (saturationDb: number) => {
      const iq = await send({ card: { gain: 65 }, truth: { ...quiet, amplifier: { saturationDb, smoothness: 2 } } }, tones);
      return ((await measureRecording('two-tone', iq)).measurement as TwoToneMeasurement).imd3Db ?? 0;
    };
    const [linear, bent] = [await imd(6), await imd(0)];
    expect(bent).toBeGreaterThan(linear + 8);
    expect(linear).toBeLessThan(-30);
  });

  it('FM: deviation of its wide and narrow position', async () => {
    for (const [width, deviation] of [
      ['wide', 4400],
      ['narrow', 2100],
    ] as const) {
      const loud = sine(RATE, 1000, 3, 0.5);
      const iq = await send(
        { mode: 'fm', card: { gain: 60, width }, truth: { ...quiet, deviationHz: { wide: 4400, narrow: 2100 } } },
        loud,
      );
      const m = (await measureRecording('fm', iq)).measurement as FmMeasurement;
      // The ALC lets a twelfth of the overdrive through, and the limiter behind it holds full deviation.
      expect(Math.abs((m.peakDeviationHz ?? 0) - deviation) / deviation).toBeLessThan(0.05);
    }
  });
});
