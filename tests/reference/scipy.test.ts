/** Source: SciPy (scipy.signal), run live from Debian's package. */
import { describe, expect, it } from 'vitest';
import {
  type Biquad,
  BiquadChain,
  highPass,
  highShelf,
  lowPass,
  lowShelf,
  peaking,
  peakingQ,
  responseDb,
} from '../../src/core/dsp/filter/biquad.ts';
import { bandPassTaps, filterCentred } from '../../src/core/dsp/filter/fir.ts';
import { bandPowers, VOICE_THIRD_OCTAVES } from '../../src/core/dsp/spectrum/bands.ts';
import { SpectrumAverager } from '../../src/core/dsp/spectrum/spectrum.ts';
import { hann } from '../../src/core/dsp/spectrum/window.ts';
import { percentile } from '../../src/core/dsp/statistics/statistics.ts';
import { python } from '../support/python.ts';
import { feed, interleaved, noise, sine, voiceLike } from '../support/signals.ts';

const RATE = 48000;
const listed = (samples: Float64Array) => Float64Array.from(samples);
const coefficients = ({ b0, b1, b2, a1, a2 }: Biquad) => [b0, b1, b2, 1, a1, a2];

describe('SciPy agrees', () => {
  it('on the Hann window', () => {
    const theirs = python<number[]>("result=sig.get_window('hann',data['n']).tolist()", { n: 256 });
    hann(256).forEach((value, n) => {
      expect(value).toBeCloseTo(theirs[n], 12);
    });
  });

  it.each([8000, 44100])('on Welch spectra at %i Hz (scipy.signal.welch)', (rate) => {
    const samples = voiceLike(rate, 3);
    const [ours] = feed(new SpectrumAverager({ sampleRateHz: rate, size: 2048, averages: 1, weigh: () => [1] }), samples, [977]).result();
    const theirs = python<number[]>("f,p=sig.welch(data['x'],data['rate'],'hann',2048,1024,detrend=False)\nresult=p.tolist()", {
      x: listed(samples),
      rate,
    });
    const top = Math.max(...theirs);
    theirs.forEach((value, k) => {
      expect(Math.abs((ours?.density[k] ?? 0) - value)).toBeLessThan(1e-6 * top);
    });
  });

  it('on two-sided Welch spectra of I and Q (scipy.signal.welch)', () => {
    const [i, q] = [noise(RATE, 1, 0.1), sine(RATE, 5000, 1, 0.2)];
    const averager = new SpectrumAverager({ sampleRateHz: RATE, size: 4096, averages: 1, weigh: () => [1], isComplex: true });
    averager.push(interleaved(i, q));
    const theirs = python<number[]>(
      "f,p=sig.welch(np.array(data['i'])+1j*np.array(data['q']),48000,'hann',4096,2048,detrend=False,return_onesided=False)\nresult=np.fft.fftshift(p).tolist()",
      { i: listed(i), q: listed(q) },
    );
    const [ours] = averager.result();
    const top = Math.max(...theirs);
    theirs.forEach((value, k) => {
      expect(Math.abs((ours?.density[k] ?? 0) - value)).toBeLessThan(1e-6 * top);
    });
  });

  it('on third-octave levels, within 0.1 dB of band-pass filters (Butterworth, order 8, as IEC 61260-1 class 1 filters do)', () => {
    const samples = noise(RATE, 20, 0.1);
    const [spectrum] = feed(new SpectrumAverager({ sampleRateHz: RATE, size: 8192, averages: 1, weigh: () => [1] }), samples).result();
    if (!spectrum) throw new Error('no spectrum');
    const ours = bandPowers(spectrum, VOICE_THIRD_OCTAVES);
    const bands = VOICE_THIRD_OCTAVES.filter((_, i) => i >= 6);
    const theirs = python<number[]>(
      "x=np.array(data['x'])\nresult=[float(np.mean(sig.sosfilt(sig.butter(8,b,'bandpass',fs=48000,output='sos'),x)**2)) for b in data['bands']]",
      { x: listed(samples), bands: bands.map(({ lowHz, highHz }) => [lowHz, highHz]) },
    );
    theirs.forEach((power, i) => {
      expect(Math.abs(10 * Math.log10((ours[i + 6] ?? 0) / power))).toBeLessThan(0.12);
    });
  });

  const filters: readonly (readonly [string, Biquad])[] = [
    ['bell by octaves', peaking(RATE, 900, 7, 1.5)],
    ['bell by Q', peakingQ(RATE, 2400, -9, 3)],
    ['low shelf', lowShelf(RATE, 250, 5)],
    ['high shelf', highShelf(RATE, 2000, -8)],
    ['low-pass', lowPass(RATE, 2700)],
    ['high-pass', highPass(RATE, 300)],
  ];
  it.each(filters)('on the response of a %s (scipy.signal.freqz)', (_, filter) => {
    const hz = [60, 120, 300, 900, 2400, 5000, 15000];
    const theirs = python<number[]>(
      "c=data['c']\nw,h=sig.freqz(c[:3],c[3:],worN=data['hz'],fs=48000)\nresult=(20*np.log10(abs(h))).tolist()",
      { c: coefficients(filter), hz },
    );
    for (const [i, frequency] of hz.entries()) expect(responseDb(filter, RATE, frequency)).toBeCloseTo(theirs[i], 8);
  });

  it('on filtered samples (scipy.signal.sosfilt)', () => {
    const samples = noise(RATE, 0.2, 0.1);
    const sections = filters.map(([, filter]) => filter);
    const theirs = python<number[]>("result=sig.sosfilt(data['sos'],data['x']).tolist()", {
      sos: sections.map(coefficients),
      x: listed(samples),
    });
    new BiquadChain(sections).process(samples.slice()).forEach((x, n) => {
      expect(x).toBeCloseTo(theirs[n], 10);
    });
  });

  it('on the band-pass of a windowed sinc (scipy.signal.firwin) and its convolution', () => {
    const ours = bandPassTaps(RATE, 300, 2700, 401);
    const samples = noise(RATE, 0.1, 0.1);
    const { taps, y } = python<{ taps: number[]; y: number[] }>(
      "t=sig.firwin(401,[300,2700],pass_zero=False,window='hamming',scale=False,fs=48000)\nresult={'taps':t.tolist(),'y':np.convolve(data['x'],t,'same').tolist()}",
      { x: listed(samples) },
    );
    ours.forEach((tap, k) => {
      expect(tap).toBeCloseTo(taps[k], 10);
    });
    filterCentred(samples, ours).forEach((x, n) => {
      expect(x).toBeCloseTo(y[n], 10);
    });
  });

  it('on percentiles (numpy.percentile)', () => {
    const samples = listed(noise(1000, 1, 1));
    const percents = [0, 2, 10, 50, 99.9, 100];
    const theirs = python<number[]>("result=np.percentile(data['x'],data['p']).tolist()", { x: samples, p: percents });
    for (const [i, percent] of percents.entries()) expect(percentile(samples, percent)).toBeCloseTo(theirs[i], 12);
  });
});
