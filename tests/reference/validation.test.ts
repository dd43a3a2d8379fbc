/**
 * Verdicts and numbers on transmissions of known truth, made with SciPy from recorded voices (Debian's packages, see
 * docs/validation): a quarter of what `npm run validate` measures. Sources of the equations are named in
 * tests/validation/transmissions.py.
 */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { proposalFor, readManifest, type Transmission, type Verdict, verdictOf } from '../validation/score.ts';

const folder = mkdtempSync(join(tmpdir(), 'dialtune-validation-'));
const verdicts: Verdict[] = [];
let all: Transmission[] = [];

beforeAll(async () => {
  execFileSync('/usr/bin/python3', ['tests/validation/transmissions.py', folder, '1', '4']);
  all = readManifest(folder);
  for (const transmission of all) verdicts.push(await verdictOf(folder, transmission));
}, 300_000);
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const told = (wrong: readonly Verdict[]) =>
  wrong.map(
    ({ transmission: { name }, accused }) =>
      `${name}: ${accused.map(({ code, evidence }) => `${code} (${evidence})`).join('; ') || 'nothing'}`,
  );

describe('verdicts on recorded voices', () => {
  it('holds enough of every kind to mean something', () => {
    for (const kind of ['voice', 'ssb', 'am', 'fm']) {
      for (const isSound of [true, false]) {
        const those = all.filter((each) => each.kind === kind && (each.fault === null) === isSound);
        expect(those.length, `${kind} ${isSound}`).toBeGreaterThan(3);
      }
    }
  });

  it('at most 2 of 100 sound transmissions are accused of anything', () => {
    const sound = verdicts.filter(({ transmission }) => transmission.fault === null);
    const wrong = sound.filter(({ isRight }) => !isRight);
    expect(wrong.length / sound.length, told(wrong).join('\n')).toBeLessThanOrEqual(0.02);
  });

  const faultyOf = (isRecorded: boolean) =>
    verdicts.filter(({ transmission: { fault, recorded } }) => fault !== null && recorded === isRecorded);

  it('of recorded voices at least 95 of 100 faults are found', () => {
    const faulty = faultyOf(true);
    const wrong = faulty.filter(({ isRight }) => !isRight);
    expect(1 - wrong.length / faulty.length, told(wrong).join('\n')).toBeGreaterThanOrEqual(0.95);
  });

  it('of synthetic voices all of the radio’s are found, and of the voice’s own all but boom and room noise', () => {
    // Their lows are thinner than any person's: a boom in them, or noise between their words, is missed at times.
    const wrong = faultyOf(false).filter(({ isRight, transmission: { fault } }) => !isRight && fault !== 'boomy' && fault !== 'room-noise');
    expect(told(wrong)).toEqual([]);
  });

  it.each([
    // Tolerances: 1 dB for levels; deviation and depth of a held peak within what noise of 30 dB adds to it.
    ['oppositeSidebandDb', 1],
    ['carrierPepDb', 1],
    ['modulationDepth.negative', 0.05],
    ['peakDeviationHz', 250],
    ['ctcssHz', 0.5],
    ['voicePeakDeviationHz', 300],
  ])('%s is what was put in', (key, tolerance) => {
    const those = verdicts.flatMap(({ numbers }) => numbers.filter((each) => each.key === key));
    expect(those.length).toBeGreaterThan(0);
    for (const { measured, truth } of those) expect(Math.abs(measured - truth)).toBeLessThan(tolerance);
  });
});

describe('the SSB carrier proposed from a recording', () => {
  it('above 80 % lies within 50 Hz in 95 of 100, and is not only a lucky few', async () => {
    const proposals = [];
    const ssb = all.filter(({ kind }) => kind === 'ssb');
    // Every other one: each is searched through at all offsets.
    for (const transmission of ssb.filter((_, k) => k % 2 === 0)) proposals.push(await proposalFor(folder, transmission));
    const sure = proposals.filter((each) => each !== null).filter(({ confidence }) => confidence >= 0.8);
    expect(sure.length / proposals.length).toBeGreaterThan(0.4);
    expect(sure.filter(({ offHz }) => Math.abs(offHz) <= 50).length / sure.length).toBeGreaterThanOrEqual(0.95);
  }, 900_000);
});
