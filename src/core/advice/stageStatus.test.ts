import { describe, expect, it } from 'vitest';
import { parametricRig, rigOf, steps, twoBankRig } from '../../../tests/support/rigs.ts';
import { factoryCard } from '../rig/card.ts';
import { amGain } from './advisors/amGain.ts';
import { fmGain } from './advisors/fmGain.ts';
import { type RibbonInput, ribbon } from './stageStatus.ts';

describe('the ribbon', () => {
  const rig = parametricRig(1);
  const input: RibbonInput = {
    rig,
    card: factoryCard(rig),
    microphone: { name: 'Reed boom', use: { position: 'flat', accessories: [], distanceCm: 6 } },
    voice: null,
    radio: null,
    analyserDb: null,
    radioGain: null,
    movesLeft: null,
    alcReading: null,
    alcExpected: null,
    isChangedSince: false,
    model: null,
    isModelling: false,
  };
  const radio = {
    headline: '2457 Hz wide',
    findings: [{ code: 'overdrive', severity: 'fault', text: '', evidence: '' }],
    isOld: false,
  } as const;

  it('on air: the newest I/Q measurement, its worst finding, and whether the card has changed since', () => {
    expect(stage('on-air')).toMatchObject({ state: 'unknown' });
    expect(stage('on-air', { radio })).toMatchObject({ value: '2457 Hz wide', note: 'overdrive', state: 'fault' });
    expect(stage('on-air', { radio: { ...radio, isOld: true } })).toMatchObject({ state: 'stale' });
    expect(stage('on-air', { radio: { ...radio, findings: [] } })).toMatchObject({ note: 'clean', state: 'ok' });
    expect(stage('on-air', { analyserDb: -31 })).toMatchObject({ value: '−31 dB', note: 'next channel, by an analyser', state: 'fault' });
    expect(stage('on-air', { analyserDb: -48 })).toMatchObject({ state: 'ok' });
    expect(stage('on-air', { radio, analyserDb: -48 })).toMatchObject({ value: '2457 Hz wide' });
  });

  const stage = (key: string, change: Partial<RibbonInput> = {}) => ribbon({ ...input, ...change }).find((each) => each.key === key);

  it('has nine stages and is honest about what is not measured', () => {
    const stages = ribbon(input);
    expect(stages.map(({ key }) => key)).toEqual(['voice', 'mic', 'gain', 'equalizer', 'compressor', 'passband', 'alc', 'on-air', 'heard']);
    for (const { state } of stages) expect(state).toBe('unknown');
    const notes = Object.fromEntries(stages.map(({ key, note }) => [key, note]));
    expect(notes.mic).toBe('flat, 6 cm');
    for (const key of ['gain', 'compressor']) expect(notes[key]).toContain('not on this radio');
    for (const key of ['voice', 'equalizer', 'alc', 'on-air', 'heard']) expect(notes[key]).toContain('not measured yet');
    expect(notes.passband).toBe('as the dials say, not measured');
  });

  it('tells what the model expects: ALC by its zone, crest, reach and naturalness', () => {
    const model = {
      reach: { reachDb: 3.21, uncertaintyDb: 0.4, atOtherCriteria: [], neededSnrDb: 15, distortionDb: -20, noiseDb: -60 },
      naturalness: { score: 61.4, spectrumDb: 3, dynamicsDb: 1, distortionDb: -20 },
      alc: { usual: 0.41, highest: 0.6 },
      peakToAverageDb: 8.2,
    };
    const withGain = rigOf({ ...rig, dials: [...rig.dials, steps('gain', 0, 100, 1, { stage: 'gain', role: 'mic-gain', rest: 50 })] });
    expect(stage('gain', { rig: withGain, model })).toMatchObject({ note: 'ALC about 0.41 expected', state: 'ok' });
    // What was read has the last word.
    expect(stage('gain', { rig: withGain, model, alcExpected: 0.7 })).toMatchObject({ note: 'ALC about 0.70 expected', state: 'watch' });
    expect(stage('gain', { rig: withGain, model, alcExpected: 0.4, alcReading: 0.95 })).toMatchObject({
      note: 'ALC read 0.95',
      state: 'watch',
    });
    expect(stage('gain', { rig: withGain, model, alcExpected: 0.4, alcReading: 0.95, isChangedSince: true })).toMatchObject({
      state: 'ok',
    });
    expect(stage('gain', { rig: withGain, model: { ...model, alc: { usual: 0.9, highest: 1 } } })).toMatchObject({ state: 'watch' });
    expect(stage('heard', { model })).toMatchObject({ value: 'reach +3.2 dB', note: 'naturalness 61, expected', state: 'ok' });
    expect(stage('heard', { isModelling: true })).toMatchObject({ note: 'calculating', state: 'unknown' });
    const unreadable = { ...model, reach: { ...model.reach, reachDb: null } };
    expect(stage('heard', { model: unreadable })).toMatchObject({ value: 'not readable', state: 'fault' });
  });

  it('FM and AM: the gain by depth or deviation, and nothing that is never going to come', () => {
    const gain = steps('gain', 0, 100, 1, { stage: 'gain', role: 'mic-gain', rest: 50 });
    const handheld = rigOf({ ...rig, dials: [gain], equalizer: { kind: 'none' } });
    const card = factoryCard(handheld, 'fm');
    const fm = { rig: handheld, card, isModelling: true };
    const deviating = (peakHz: number) => ({ ...fm, radioGain: fmGain(handheld, card, peakHz) });
    expect(stage('gain', fm)).toMatchObject({ note: 'not measured yet', state: 'unknown' });
    expect(stage('gain', deviating(2400))).toMatchObject({
      value: '+50 dB',
      note: 'peaks usually 2.4 kHz, 4.0 to 5.0 wanted',
      state: 'watch',
    });
    expect(stage('gain', deviating(4600))).toMatchObject({ note: 'peaks usually 4.6 kHz, 4.0 to 5.0 wanted', state: 'ok' });
    expect(stage('alc', { ...fm, alcReading: 0.9 })).toMatchObject({ value: 'none', state: 'unknown' });
    expect(stage('heard', fm)).toMatchObject({ note: 'not calculated for FM', state: 'unknown' });
    const am = { ...fm, card: factoryCard(handheld, 'am') };
    expect(stage('heard', am)).toMatchObject({ note: 'not calculated for AM' });
    const cutOff = amGain(handheld, am.card, { up: 1.2, down: 1, isCutOff: true });
    expect(stage('gain', { ...am, radioGain: cutOff })).toMatchObject({ note: 'the carrier is cut off', state: 'fault' });
    // Once the depth is known, the ALC below its zone is nothing to look at.
    expect(stage('alc', { ...am, alcReading: 0.05 })).toMatchObject({ note: 'below the zone', state: 'watch' });
    expect(stage('alc', { ...am, alcReading: 0.05, radioGain: cutOff })).toMatchObject({
      note: 'in AM the depth decides',
      state: 'unknown',
    });
    expect(stage('alc', { ...am, alcReading: 0.9, radioGain: cutOff })).toMatchObject({ note: 'above the zone', state: 'watch' });
    const shallow = amGain(handheld, am.card, { up: 0.32, down: 0.3, isCutOff: false });
    expect(stage('gain', { ...am, radioGain: shallow })).toMatchObject({ note: 'usually 32 % deep, 70 to 95 % wanted', state: 'watch' });
  });

  it('judges the ALC by its zone, and calls the reading stale after any change', () => {
    expect(stage('alc', { alcReading: 0.4 })?.state).toBe('ok');
    expect(stage('alc', { alcReading: 0.6 })).toMatchObject({ state: 'watch', note: 'above the zone' });
    expect(stage('alc', { alcReading: 0.1 })).toMatchObject({ state: 'watch', note: 'below the zone' });
    expect(stage('alc', { alcReading: 0.4, isChangedSince: true })).toMatchObject({ state: 'stale', note: 'read it again' });
  });

  it('tells how many dials are off target', () => {
    expect(stage('equalizer', { movesLeft: 4 })).toMatchObject({ state: 'watch', note: '4 dials off target' });
    expect(stage('equalizer', { movesLeft: 0 })).toMatchObject({ state: 'ok', value: 'on' });
    const banks = twoBankRig();
    expect(stage('equalizer', { rig: banks, card: factoryCard(banks) })?.value).toBe('off');
    const awake = { ...factoryCard(banks), values: { ...factoryCard(banks).values, eq: 'on' } };
    expect(stage('equalizer', { rig: banks, card: awake })?.value).toBe('bank N on');
  });

  it('takes the worst finding as the state of the voice', () => {
    const findings = [{ code: 'muffled', severity: 'fault', text: '', evidence: '' }] as const;
    expect(stage('voice', { voice: { pitchHz: 112, findings } })).toMatchObject({ value: 'low, 112 Hz', state: 'fault', note: 'muffled' });
    expect(stage('voice', { voice: { pitchHz: null, findings: [] } })).toMatchObject({ value: 'pitch unclear', state: 'ok' });
  });
});
