import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import {
  type AlcReading,
  alcStanding,
  amGain,
  type CarrierBracket,
  carrierBracket,
  fmGain,
  type GoalState,
  isBaseline,
  toBaseline,
} from '../advice/index.ts';
import { TWELFTH_CENTRES } from '../dsp/index.ts';
import type { Finding, FindingCode } from '../findings/index.ts';
import { factoryCard, type Mode, parseRig, type RigProfile } from '../rig/index.ts';
import type { TuneEvidence } from './enough.ts';
import { passbandChoices } from './passbands.ts';
import { beginRun, TUNE_STEPS, type TuneEars, type TuneStepKey } from './run.ts';
import { tuneStep } from './steps.ts';

const RIGS = ['tern-100', 'fulmar-8', 'knot-5', 'dunlin-fm'].map((name) =>
  parseRig(JSON.parse(readFileSync(`demo/rigs/${name}.json`, 'utf8'))),
);
const [tern, fulmar, knot, dunlin] = RIGS;
const cardOf = (rig: RigProfile, mode: Mode = rig.modes[0]) => factoryCard(rig, mode);
const run = (ears: TuneEars = 'files') => beginRun({ alc: '30-50', compression: 'token', order: 'alc-first', ears });
const GOAL: GoalState = { alc: 'ok', drive: 'ok', compression: 'ok', toneErrorDb: 1.2, bestToneErrorDb: 0.9 };
const finding = (code: FindingCode, severity: Finding['severity']): Finding => ({ code, severity, text: `${code}.`, evidence: '' });

function evidence(change: Partial<TuneEvidence> & { readings?: readonly number[] } = {}): TuneEvidence {
  const { readings = [], rig = tern, ...rest } = change;
  const card = rest.card ?? cardOf(rig);
  const read = readings.map((alc): AlcReading => ({ alc, card: { ...card, use: null } }));
  const zoned = { ...rig, alc: { ...rig.alc, zone: [0.3, 0.5] as [number, number] } };
  const standing = alcStanding(zoned, { ...card, use: null }, read, []);
  return {
    rig,
    card,
    standing,
    goal: GOAL,
    asksAgain: false,
    swr: null,
    heard: null,
    bracket: null,
    tooMuchDrive: null,
    reports: 0,
    radioGain: null,
    ...rest,
  };
}
const enough = (key: TuneStepKey, change: Parameters<typeof evidence>[0] = {}, ears: TuneEars = 'files') =>
  tuneStep(run(ears), key, evidence(change)).enough;

describe('every step on every radio and ear', () => {
  it.each(RIGS.flatMap((rig) => rig.modes.map((mode) => [rig.name, mode, rig] as const)))('%s in %s', (_, mode, rig) => {
    for (const ears of ['files', 'live', 'none', 'practice'] as const) {
      for (const key of TUNE_STEPS) {
        const step = tuneStep(run(ears), key, evidence({ rig, card: cardOf(rig, mode) }));
        for (const text of [step.title, step.why, step.goal, step.enough.text, ...step.tasks.map((task) => task.text)]) {
          expect(text).toMatch(/^[A-Z0-9].*[.a-zC]$/);
          expect(text).not.toMatch(/undefined|NaN|\.\./);
        }
        expect(step.tasks.length).toBeGreaterThan(0);
      }
    }
  });
});

describe('what is good enough', () => {
  it('no processor or equalizer is no reason to wait', () => {
    const fm = RIGS.find(({ modes }) => modes.length === 1 && modes[0] === 'fm');
    if (!fm) throw new Error('no FM radio');
    for (const key of ['compressor', 'equalizer'] as const)
      expect(tuneStep(run('files'), key, evidence({ rig: fm, card: cardOf(fm, 'fm'), goal: null })).enough).toEqual({
        state: 'ok',
        text: 'Nothing to set here.',
      });
  });

  it('safety: ticks, and an SWR that stops everything', () => {
    expect(enough('prepare')).toMatchObject({ state: 'watch', text: '5 of 5 left to tick.' });
    const ticked = { ...run(), ticks: ['load', 'power', 'frequency', 'meter', 'headphones'] };
    expect(tuneStep(ticked, 'prepare', evidence()).enough.state).toBe('ok');
    expect(tuneStep(ticked, 'prepare', evidence({ swr: 4 })).enough).toMatchObject({ state: 'fault' });
  });

  it('the level: not read, below, above, inside, stale', () => {
    expect(enough('gain').text).toMatch(/not read/);
    expect(enough('gain', { readings: [0.1] }).text).toMatch(/below/);
    expect(enough('gain', { readings: [0.8] }).text).toMatch(/above/);
    expect(enough('gain', { readings: [0.4] }).state).toBe('ok');
    const card = cardOf(tern);
    const moved = { ...card, values: { ...card.values, 'mic-gain': 70 } };
    const stale = evidence({ readings: [0.4] });
    const standing = alcStanding(tern, { ...moved, use: null }, [{ alc: 0.4, card: { ...card, use: null } }], []);
    expect(tuneStep(run(), 'alc-again', { ...stale, standing }).enough).toMatchObject({ state: 'stale' });
    expect(enough('gain', { readings: [0.4], goal: { ...GOAL, drive: 'high' } }).state).toBe('fault');
    expect(enough('gain', { readings: [0.4], tooMuchDrive: 'overdrive.' })).toEqual({ state: 'fault', text: 'overdrive.' });
  });

  it('the microphone: its own faults count, the tone does not', () => {
    const heard = (...findings: Finding[]) => ({ heard: { findings, isMonitor: false } });
    expect(enough('microphone', heard(finding('muffled', 'fault'))).state).toBe('ok');
    expect(enough('microphone', heard(finding('plosives', 'watch'))).state).toBe('watch');
    expect(enough('microphone').state).toBe('watch');
    expect(enough('microphone', {}, 'none').state).toBe('unknown');
  });

  it('the tone: within a decibel of what the dials can do', () => {
    expect(enough('equalizer').state).toBe('ok');
    expect(enough('equalizer', { goal: { ...GOAL, toneErrorDb: 2.5 } }).state).toBe('watch');
    expect(enough('equalizer', { goal: null }).state).toBe('unknown');
  });

  it('verifying needs something that is not the radio', () => {
    expect(enough('verify', { heard: { findings: [], isMonitor: true } }).state).toBe('watch');
    const heard = { findings: [], isMonitor: false };
    expect(enough('verify', { heard }).state).toBe('ok');
    expect(enough('verify', { heard, readings: [0.4] }).state).toBe('ok');
    const loud = enough('verify', { heard, readings: [0.95] });
    expect(loud).toEqual({
      state: 'watch',
      text: 'Heard off the air with nothing wrong in it, but the ALC is not right: 0.95 is above the zone.',
    });
    // A tone nobody wants has a way out.
    const muffled = {
      findings: [{ code: 'muffled' as const, severity: 'fault' as const, text: 'Muffled.', evidence: '' }],
      isMonitor: false,
    };
    expect(enough('verify', { heard: muffled })).toMatchObject({ state: 'fault', text: expect.stringContaining('back to the equalizer') });
    expect(enough('verify', { heard, tooMuchDrive: 'The next channel is full.' })).toMatchObject({ state: 'fault' });
  });

  it('FM: the deviation is the level, and nobody is asked for the ALC', () => {
    const fm = { rig: dunlin, card: cardOf(dunlin, 'fm') };
    const step = tuneStep(run(), 'gain', evidence({ ...fm, radioGain: fmGain(dunlin, fm.card, 1500) }));
    expect(step.scope).toBeNull();
    expect(step.enough.state).toBe('watch');
    expect(JSON.stringify(step)).not.toMatch(/ALC/);
    expect(tuneStep(run(), 'gain', evidence({ ...fm, radioGain: fmGain(dunlin, fm.card, 4500) })).enough.state).toBe('ok');
  });

  describe('AM: the depth is the level', () => {
    const am = { rig: fulmar, card: cardOf(fulmar, 'am'), readings: [0.4, 0.4, 0.4] };
    const deep = (up: number, down: number, isCutOff = false) => ({ radioGain: amGain(fulmar, am.card, { up, down, isCutOff }) });
    const step = (key: TuneStepKey, change: Parameters<typeof evidence>[0]) => tuneStep(run(), key, evidence({ ...am, ...change }));

    it('a carrier that is cut off is a fault, whatever the ALC reads, and only the depth turns the gain', () => {
      for (const key of ['gain', 'alc-again'] as const) {
        const cut = step(key, deep(1.3, 1, true));
        expect(cut).toMatchObject({ scope: null, enough: { state: 'fault' } });
        expect(cut.enough.text).toMatch(/cut off.*Mic gain \d+ % → \d+ %/);
      }
    });

    it('too little is not good enough yet; enough is, with the ALC in its zone', () => {
      expect(step('gain', deep(0.3, 0.3))).toMatchObject({
        scope: null,
        enough: { state: 'watch' },
      });
      expect(step('gain', deep(0.85, 0.8))).toMatchObject({ scope: [], enough: { state: 'ok' } });
      const loud = { ...deep(0.85, 0.8), readings: [0.9] };
      expect(step('gain', loud).enough.state).toBe('watch');
    });

    it('once the depth is right, an ALC below its zone turns nothing; above it the carrier is too strong', () => {
      const quiet = { ...deep(0.85, 0.8), readings: [0.05] };
      expect(step('gain', quiet).enough.state).toBe('ok');
      expect(step('verify', { ...quiet, heard: { findings: [], isMonitor: false } }).enough.state).toBe('ok');
      expect(step('gain', { ...deep(0.85, 0.8), readings: [0.9] }).enough.text).toMatch(/out of the RF power, not of the gain/);
    });

    it('without I/Q the ALC counts, and says what is missing', () => {
      expect(step('gain', {}).enough).toMatchObject({
        state: 'ok',
        text: expect.stringMatching(/inside the zone\. The depth was not measured/),
      });
    });

    it('without I/Q the last look is over when nobody wants another', () => {
      const again = { readings: [0.4], asksAgain: true };
      expect(step('alc-again', again).enough).toMatchObject({ state: 'unknown', text: expect.stringContaining('may be luck') });
      expect(step('alc-again', { ...again, ...deep(0.85, 0.8) }).enough.state).toBe('ok');
      expect(step('gain', again).enough.state).toBe('ok');
    });

    it('comes before "nothing is wrong"', () => {
      const heard = { findings: [], isMonitor: false };
      expect(step('verify', { heard, ...deep(1.3, 1, true) }).enough.state).toBe('fault');
      expect(step('verify', { heard, ...deep(0.85, 0.8) }).enough.state).toBe('ok');
    });
  });

  it('what is worth a look is told with the last look, and is no fault', () => {
    const seen = enough('verify', { heard: { findings: [finding('boomy', 'watch')], isMonitor: false }, readings: [0.4, 0.4, 0.4] });
    expect(seen).toEqual({ state: 'ok', text: 'Heard off the air, with no fault in it. Worth a look: boomy.' });
  });
});

describe('a radio whose carrier offset is its passband', () => {
  const card = { ...cardOf(knot), values: { ...cardOf(knot).values, 'carrier-offset': 0 } };
  const powers = (tiltDb: number) => TWELFTH_CENTRES.map((hz) => 10 ** (((tiltDb / 10) * Math.log2(hz / 900)) / 2));
  const at = (offset: number, tiltDb: number) => ({
    card: { ...card, values: { ...card.values, 'carrier-offset': offset } },
    voice: { speechPowers: powers(tiltDb), pausePowers: null },
    remarks: [],
  });
  const flat = [
    [80, 0],
    [5000, 0],
  ] as const;
  const bracketOf = (...heard: ReturnType<typeof at>[]) => carrierBracket(knot, card, heard, flat);
  const of = (bracket: TuneEvidence['bracket'], ears?: TuneEars) => enough('passband', { rig: knot, card, bracket }, ears);

  it('is not chosen before it was heard, nor while it sounds sharp and nothing mellow was tried', () => {
    expect(of(bracketOf()).state).toBe('watch');
    expect(of(bracketOf(), 'none').state).toBe('unknown');
    const sharp = { state: 'watch', text: 'With this carrier offset the voice sounds sharp: bracket it first.' };
    const away = { ...card, values: { ...card.values, 'carrier-offset': 300 } };
    expect(enough('passband', { rig: knot, card: away, bracket: carrierBracket(knot, away, [at(300, 12)], flat) })).toEqual(sharp);
    // With half of the voice cut off, with complaints, and where there is no tone dial, it is bracketed even where the factory put it.
    const cut = TWELFTH_CENTRES.map((hz) => (hz < 1000 ? 10 ** -3.5 : 1));
    expect(of(bracketOf({ ...at(0, 0), voice: { speechPowers: cut, pausePowers: null } }))).toEqual(sharp);
    const remark = { code: 'thin' as const, sense: 'is' as const, degree: 'plain' as const, about: 'signal' as const };
    expect(of(bracketOf({ ...at(0, 12), remarks: [remark] } as never))).toEqual(sharp);
    const plain = { ...knot, equalizer: { kind: 'none' as const } };
    expect(enough('passband', { rig: plain, card, bracket: carrierBracket(plain, card, [at(0, 12)], flat) })).toEqual(sharp);
  });

  it('waits for the tone dials where the factory put it and nobody complains', () => {
    expect(of(bracketOf(at(0, 12)))).toMatchObject({ state: 'ok', text: expect.stringMatching(/sounds sharp: tone dials come first/) });
  });

  it('is chosen where it sounds balanced, or is one of the two candidates', () => {
    expect(of(bracketOf(at(0, 0))).state).toBe('ok');
    const heard = [at(0, 12), at(-100, -12), at(-50, 12)];
    const standing = (offset: number, aside: Partial<CarrierBracket> = {}) => {
      const on = { ...card, values: { ...card.values, 'carrier-offset': offset } };
      const found = carrierBracket(knot, on, heard, flat);
      return enough('passband', { rig: knot, card: on, bracket: found && { ...found, next: null, ...aside } });
    };
    expect(standing(-50)).toMatchObject({ state: 'ok', text: expect.stringContaining('the sharp one of the two candidates') });
    expect(standing(0)).toEqual({
      state: 'watch',
      text: 'With this carrier offset the voice sounds sharp: −50 Hz is the sharp candidate.',
    });
    expect(standing(-50, { mellow: null })).toMatchObject({ state: 'ok', text: expect.stringContaining('as near as the dial comes') });
  });

  it('comes before what no equalizer can mend, and is named at the end', () => {
    const bracket = bracketOf(at(0, 12));
    const far = { rig: knot, card, bracket, goal: { ...GOAL, toneErrorDb: 7.2, bestToneErrorDb: 7.1 } };
    expect(enough('equalizer', far)).toMatchObject({ state: 'watch', text: expect.stringContaining('carrier offset comes first') });
    expect(enough('equalizer', { ...far, bracket: null }).state).toBe('ok');
    const heard = (code: FindingCode) => ({ rig: knot, card, bracket, heard: { findings: [finding(code, 'fault')], isMonitor: false } });
    expect(enough('verify', heard('thin')).text).toContain('carrier offset comes first');
    expect(enough('verify', heard('hum')).text).toBe('hum.');
  });
});

describe('the level has one judge', () => {
  it('at the last look a reading inside the zone is enough only where nobody wants another', () => {
    const once = { readings: [0.4], asksAgain: true };
    expect(enough('alc-again', once)).toEqual({
      state: 'unknown',
      text: '0.40 is inside the zone. One reading of talk may be luck: once more, with nothing turned.',
    });
    expect(enough('alc-again', { readings: [0.4] }).state).toBe('ok');
    // What is wrong stays wrong, and on the way there one look is enough to go on.
    expect(enough('alc-again', { ...once, readings: [0.9] }).state).toBe('watch');
    expect(enough('gain', once).state).toBe('ok');
  });

  it('the engine’s word counts, whatever the readings alone would say', () => {
    const readings = [0.9, 0.9, 0.9, 0.45];
    const alone = enough('gain', { readings, goal: null });
    expect(enough('gain', { readings, goal: GOAL }).state).toBe('ok');
    expect(enough('gain', { readings: [0.4], goal: { ...GOAL, alc: 'high' } }).state).toBe('unknown');
    expect(alone.state).toBe('unknown');
  });
});

describe('the baseline', () => {
  it.each(RIGS.flatMap((rig) => rig.modes.map((mode) => [rig.name, mode, rig] as const)))(
    '%s in %s is flat and uncompressed after it',
    (_, mode, rig) => {
      const loud = Object.fromEntries(
        rig.dials.flatMap(({ id, unit, scale }) => (unit === 'dB' && scale.kind === 'steps' ? [[id, scale.max] as const] : [])),
      );
      const card = cardOf(rig, mode);
      const coloured = { ...card, values: { ...card.values, ...loud } };
      const flat = { ...coloured, values: { ...coloured.values, ...toBaseline(rig, coloured) } };
      expect(isBaseline(rig, flat)).toBe(true);
      expect(toBaseline(rig, flat)).toEqual({});
    },
  );
});

describe('passbands to choose from', () => {
  it('are what the rig comes to, each once, by its own name', () => {
    const choices = passbandChoices(tern, cardOf(tern, 'usb'), 'pile-up');
    expect(new Set(choices.map(({ edgesHz }) => edgesHz.join())).size).toBe(choices.length);
    expect(choices.filter(({ isNow }) => isNow).length).toBeLessThanOrEqual(1);
    expect(choices.find(({ edgesHz }) => edgesHz.join() === '300,2700')?.name).toBe('Usual');
    expect(choices.some(({ suitsPurpose }) => suitsPurpose)).toBe(true);
  });
  it('none where the passband is fixed', () => {
    expect(passbandChoices(knot, cardOf(knot, 'usb'), 'balanced')).toEqual([]);
  });
});
