/** Levels against other programs: ffmpeg's ebur128 filter, sox's statistics, and P.56 written out slowly in Python. */
import { execFileSync, spawnSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { bytesInMemory } from '../../src/core/files/byteSource.ts';
import { openWav } from '../../src/core/files/samples.ts';
import { measureVoice } from '../../src/core/measure/voice/voice.ts';
import { temporaryFolder } from '../support/files.ts';
import { python } from '../support/python.ts';
import { join as joined, mix, noise, PCM16, scaled, silence, sine, sourceOf, voiceLike, wavBytes } from '../support/signals.ts';

const folder = temporaryFolder();
const RATE = 48000;

const CASES = [
  ['a 997 Hz sine', sine(RATE, 997, 5, 0.25)],
  ['a voice', mix(voiceLike(RATE, 12), noise(RATE, 12, 0.0004))],
  ['a quiet voice after a loud one', joined(voiceLike(RATE, 6), scaled(voiceLike(RATE, 6, { pitchHz: 190 }), 0.1))],
  ['a voice with long pauses', joined(voiceLike(RATE, 4), silence(RATE, 6), voiceLike(RATE, 4))],
  ['noise', noise(RATE, 6, 0.05)],
] as const;

const measured = async (samples: Float64Array, rate = RATE) => (await measureVoice(await sourceOf(rate, [samples]))).measurement;

describe('loudness: ffmpeg -af ebur128 (EBU Tech 3341, ITU-R BS.1770)', () => {
  it.each(CASES)('%s within 0.1 LU', async (name, samples) => {
    const file = join(folder, `${name.replaceAll(' ', '-')}.wav`);
    writeFileSync(file, wavBytes(RATE, [samples]));
    const { stderr } = spawnSync('ffmpeg', ['-hide_banner', '-nostats', '-i', file, '-af', 'ebur128', '-f', 'null', '-'], {
      encoding: 'utf8',
    });
    const theirs = Number(/Integrated loudness:\s+I:\s+(-?[\d.]+) LUFS/.exec(stderr)?.[1]);
    expect(Math.abs(((await measured(samples)).loudnessLufs ?? 0) - theirs)).toBeLessThanOrEqual(0.1);
  });
});

describe('files written by other programs', () => {
  it.each([
    ['pcm_u8', 8000],
    ['pcm_s16le', 44100],
    ['pcm_s24le', 48000],
    ['pcm_s32le', 96000],
    ['pcm_f32le', 48000],
    ['pcm_f64le', 192000],
  ])('ffmpeg %s at %i Hz measures as the original', async (codec, rate) => {
    const original = join(folder, 'original.wav');
    const other = join(folder, `${codec}.wav`);
    writeFileSync(original, wavBytes(RATE, [voiceLike(RATE, 5, { level: 0.08 })]));
    execFileSync('ffmpeg', ['-y', '-v', 'error', '-i', original, '-c:a', codec, '-ar', String(rate), other]);
    const open = (file: string) => openWav(bytesInMemory(new Uint8Array(readFileSync(file))));
    const [a, b] = [(await measureVoice(await open(original))).measurement, (await measureVoice(await open(other))).measurement];
    expect(b.sampleRateHz).toBe(rate);
    expect(Math.abs((b.activeSpeechLevelDb ?? 0) - (a.activeSpeechLevelDb ?? 9))).toBeLessThan(0.15);
    expect(Math.abs((b.pitchHz ?? 0) - (a.pitchHz ?? 9))).toBeLessThan(2);
  });

  it('sox RF64-free stereo and its RMS level agree', async () => {
    const file = join(folder, 'stereo.wav');
    execFileSync('sox', ['-R', '-n', '-r', '22050', '-c', '2', '-b', '16', file, 'synth', '4', 'sine', '440', 'gain', '-12']);
    const { stderr } = spawnSync('sox', [file, '-n', 'stat'], { encoding: 'utf8' });
    const rms = Number(/RMS\s+amplitude:\s+([\d.]+)/.exec(stderr)?.[1]);
    const { measurement } = await measureVoice(await openWav(bytesInMemory(new Uint8Array(readFileSync(file)))));
    expect(measurement.activeSpeechLevelDb).toBeCloseTo(20 * Math.log10(rms), 1);
  });
});

/** ITU-T P.56 method B by its definition, threshold by threshold; written for clarity, not speed. */
const P56 = `
x=np.array(data['x']); fs=data['fs']
g=np.exp(-1/(fs*0.03)); H=int(np.ceil(0.2*fs))
p=sig.lfilter([1-g],[1,-g],np.abs(x)); q=sig.lfilter([1-g],[1,-g],p)
sq=float(np.sum(x*x)); n=len(x)
A=[];C=[]
for j in range(30):
    c=2.0**(j-30)
    above=np.flatnonzero(q>=c)
    if len(above)==0: break
    held=np.bincount(above,minlength=n+1)-np.bincount(np.minimum(above+H+1,n),minlength=n+1)
    a=int(np.sum(np.cumsum(held[:n])>0))
    A.append(10*np.log10(sq/a)); C.append(20*np.log10(c))
A=np.array(A);C=np.array(C);d=A-C-15.9
k=int(np.argmax(d<=0)) if np.any(d<=0) else len(d)-1
if k==0 or d[k]>0: level=float(A[k])
else:
    s=d[k-1]/(d[k-1]-d[k]); level=float(A[k-1]+s*(A[k]-A[k-1]))
result={'level':level,'activity':float(10**((10*np.log10(sq/n)-level)/10))}
`;

describe('active speech level: ITU-T P.56 method B written out in Python', () => {
  it.each(CASES)('%s within 0.05 dB', async (_, samples) => {
    const theirs = python<{ level: number; activity: number }>(P56, { x: Float64Array.from(samples), fs: RATE });
    const ours = await measured(samples);
    expect(Math.abs((ours.activeSpeechLevelDb ?? 0) - theirs.level)).toBeLessThan(0.05);
    expect(Math.abs((ours.activityFactor ?? 0) - theirs.activity)).toBeLessThan(0.01);
  });
});

describe('arithmetic', () => {
  it('a full-scale square wave as 16-bit PCM is clipped throughout', async () => {
    const square = sine(8000, 100, 1).map((x) => Math.sign(x) || 1);
    const { measurement } = await measureVoice(await sourceOf(8000, [square], PCM16 as never));
    expect(measurement.clippedShare).toBeGreaterThan(0.98);
  });
});
