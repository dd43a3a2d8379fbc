/** Source: SciPy (scipy.signal), run live: filters, decimation, resampling, sweeps and noises of the radio side. */
import { describe, expect, it } from 'vitest';
import { DownConverter } from '../../src/core/dsp/filter/downConverter.ts';
import { lowPassTaps } from '../../src/core/dsp/filter/kaiser.ts';
import { resampled } from '../../src/core/dsp/filter/resample.ts';
import { createKernel } from '../../src/core/dsp/kernel/kernel.ts';
import { PairBlock } from '../../src/core/dsp/kernel/pairBlock.ts';
import { analytic } from '../../src/core/dsp/signals/analytic.ts';
import { exponentialSweep, linearChirp } from '../../src/core/dsp/signals/sweep.ts';
import { testSignal } from '../../src/core/dsp/signals/testSignals.ts';
import { binomialTail } from '../../src/core/dsp/statistics/statistics.ts';
import { Discriminator, FrequencyModulator } from '../../src/core/modem/fm.ts';
import { ssbModulate } from '../../src/core/modem/ssb.ts';
import { python } from '../support/python.ts';
import { interleaved, noise, sine } from '../support/signals.ts';

const listed = (samples: ArrayLike<number>) => Float64Array.from(samples);

describe('SciPy agrees', () => {
  it('on Kaiser low-pass taps (scipy.signal.firwin)', () => {
    const ours = lowPassTaps(48000, 5000, 1500);
    const theirs = python<number[]>("result=sig.firwin(data['n'],5000,window=('kaiser',0.1102*(80-8.7)),fs=48000).tolist()", {
      n: ours.length,
    });
    ours.forEach((tap, k) => {
      expect(tap).toBeCloseTo(theirs[k], 9);
    });
  });

  it('on a channel cut out of a wide stream (mixing, convolution, every so many)', () => {
    const kernel = createKernel();
    if (!kernel) throw new Error('no kernel');
    const rate = 96000;
    // Tones inside the channel, up to its slope, and beyond it on both sides: halving on the way may ripple by -80 dB.
    const tones = [6200, 8000, 10900, 11000, 12345, 15900, 18300, 25000, 41000, -3000, -30000];
    const part = (phase: number) =>
      Float64Array.from({ length: 0.2 * rate }, (_, n) =>
        tones.reduce((sum, hz, k) => sum + 0.05 * Math.cos((2 * Math.PI * hz * n) / rate + k * k - phase), 0),
      );
    const [i, q] = [part(0), part(Math.PI / 2)];
    const channel = new DownConverter(kernel, {
      sampleRateHz: rate,
      centreHz: 11000,
      halfWidthHz: 6000,
      transitionHz: 2000,
      leastRateHz: 32000,
    });
    const block = new PairBlock(kernel);
    block.load(interleaved(i, q));
    const ours = channel.push(block);
    const taps = lowPassTaps(rate, 6000, 2000);
    const theirs = python<{ i: number[]; q: number[] }>(
      [
        "z=np.array(data['i'])+1j*np.array(data['q'])",
        'z=z*np.exp(-2j*np.pi*11000*np.arange(len(z))/96000)',
        "h=np.array(data['taps'])",
        "full=np.convolve(z,h)[(len(h)-1)//2:][::data['step']]",
        'result={"i":full.real.tolist(),"q":full.imag.tolist()}',
      ].join('\n'),
      { i: listed(i), q: listed(q), taps: listed(taps), step: rate / channel.sampleRateHz },
    );
    expect(ours.i.length).toBeGreaterThan(6000);
    for (let n = 200; n < ours.i.length - 200; n++) {
      expect(Math.abs(ours.i[n] - theirs.i[n])).toBeLessThan(1e-4);
      expect(Math.abs(ours.q[n] - theirs.q[n])).toBeLessThan(1e-4);
    }
  });

  it('on the analytic signal (scipy.signal.hilbert, away from the ends)', () => {
    const samples = noise(8000, 0.5, 0.2).map((x, n) => x * Math.sin((Math.PI * n) / 4000) ** 2);
    const theirs = python<number[]>("x=np.array(data['x'])\nresult=np.imag(sig.hilbert(x,2*len(x))[:len(x)]).tolist()", {
      x: listed(samples),
    });
    const { q } = analytic(samples);
    for (let n = 400; n < 3600; n++) expect(Math.abs(q[n] - theirs[n])).toBeLessThan(2e-3);
  });

  it.each([
    [48000, 16000],
    [12000, 16000],
  ])('on resampling from %i to %i Hz (scipy.signal.resample_poly)', (from, to) => {
    const samples = sine(from, 1000, 0.3, 0.5).map((x, n) => x + 0.3 * Math.sin((2 * Math.PI * 3100 * n) / from));
    const theirs = python<number[]>("result=sig.resample_poly(data['x'],data['to'],data['from'],window=('kaiser',12)).tolist()", {
      x: listed(samples),
      from: from / 4000,
      to: to / 4000,
    });
    const ours = resampled(samples, to / from);
    for (let n = 500; n < ours.length - 500; n++) expect(Math.abs(ours[n] - theirs[n])).toBeLessThan(2e-3);
  });

  it('on sweeps and chirps (scipy.signal.chirp)', () => {
    const rate = 16000;
    const theirs = python<{ log: number[]; linear: number[] }>(
      "t=np.arange(32000)/16000\nresult={'log':sig.chirp(t,60,2,5000,method='logarithmic',phi=-90).tolist(),'linear':sig.chirp(t[:8000],500,0.5,2500,phi=-90).tolist()}",
      {},
    );
    const log = exponentialSweep({ lowHz: 60, highHz: 5000, seconds: 2 }, rate, 0.01);
    const linear = linearChirp({ lowHz: 500, highHz: 2500, seconds: 0.5 }, rate, 0.01);
    for (let n = 400; n < 31600; n += 7) expect(log[n]).toBeCloseTo(theirs.log[n], 6);
    for (let n = 400; n < 7600; n += 7) expect(linear[n]).toBeCloseTo(theirs.linear[n], 8);
  });

  it('on the slope of pink noise: 3 dB an octave, and 8 for speech-shaped noise above 500 Hz (scipy.signal.welch)', () => {
    const slope = (signal: 'pink' | 'speech-noise', from: number, to: number) => {
      const samples = testSignal({ signal, rateHz: 16000, seconds: 20, levelDb: -6 });
      return python<number>(
        "f,p=sig.welch(data['x'],16000,'hann',4096)\nk=(f>=data['lo'])&(f<=data['hi'])\nresult=float(np.polyfit(np.log2(f[k]),10*np.log10(p[k]),1)[0])",
        { x: listed(samples), lo: from, hi: to },
      );
    };
    expect(slope('pink', 100, 5000)).toBeCloseTo(-3.01, 0.5);
    expect(Math.abs(slope('speech-noise', 600, 5000) + 8.1)).toBeLessThan(0.3);
    expect(Math.abs(slope('speech-noise', 100, 450))).toBeLessThan(0.8);
  });

  it('on the chance of guessing (scipy.stats.binom.sf)', () => {
    const cases = [
      [10, 9],
      [16, 12],
      [25, 13],
      [40, 40],
    ];
    const theirs = python<number[]>("from scipy.stats import binom\nresult=[float(binom.sf(k-1,n,0.5)) for n,k in data['cases']]", {
      cases,
    });
    cases.forEach(([n, k], c) => {
      expect(binomialTail(n, k, 0.5)).toBeCloseTo(theirs[c], 12);
    });
  });

  it('on the spectrum of FM by a tone: Bessel functions, the first null at index 2.4048 (scipy.special.jv)', () => {
    const rate = 96000;
    // 5 kHz deviation with a 2079 Hz tone: the carrier is gone (tables of J0).
    const { i, q } = new FrequencyModulator(rate, 0, 5000).push(sine(rate, 2079, 1, 1, Math.PI / 2));
    const lines = python<{ got: number[]; bessel: number[] }>(
      [
        'from scipy.special import jv',
        "z=np.array(data['i'])+1j*np.array(data['q'])",
        'w=sig.get_window("hann",len(z))',
        'p=np.abs(np.fft.fft(z*w))/w.sum()',
        'at=lambda hz:float(p[int(round(hz))])',
        "result={'got':[at(n*2079) for n in range(5)],'bessel':[abs(float(jv(n,5000/2079))) for n in range(5)]}",
      ].join('\n'),
      { i: listed(i), q: listed(q) },
    );
    lines.got.forEach((level, n) => {
      expect(Math.abs(level - lines.bessel[n])).toBeLessThan(3e-3);
    });
    expect(lines.got[0]).toBeLessThan(3e-3);
  });

  it('on SSB and FM there and back (scipy.signal.hilbert, np.unwrap)', () => {
    const rate = 24000;
    const tone = sine(rate, 900, 0.3, 0.5).map((x, n) => x * Math.sin((Math.PI * n) / 7200) ** 2);
    const ssb = ssbModulate(tone, rate, 2500, 'usb');
    const theirs = python<number[]>(
      "z=sig.hilbert(data['x'],2*len(data['x']))[:len(data['x'])]*np.exp(2j*np.pi*2500*np.arange(len(data['x']))/24000)\nresult=z.real.tolist()",
      { x: listed(tone) },
    );
    for (let n = 500; n < 6700; n++) expect(Math.abs(ssb.i[n] - theirs[n])).toBeLessThan(2e-3);
    const fm = new FrequencyModulator(rate, 1000, 3000).push(tone);
    const deviation = python<number[]>(
      "z=np.array(data['i'])+1j*np.array(data['q'])\nresult=(np.diff(np.unwrap(np.angle(z)))*24000/2/np.pi).tolist()",
      { i: listed(fm.i), q: listed(fm.q) },
    );
    const ours = new Discriminator(rate).push(fm);
    for (let n = 1; n < 7000; n++) expect(ours[n]).toBeCloseTo(deviation[n - 1], 4);
  });
});
