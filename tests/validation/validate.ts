/**
 * npm run validate: makes the transmissions of known truth with SciPy, measures them, and writes docs/validation/README.md.
 * About six minutes. Needs the Debian packages that bin/test installs.
 */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { CORE_VERSION } from '../../src/core/measure/measurement.ts';
import { proposalFor, ratesOf, readManifest, totalOf, type Verdict, verdictOf } from './score.ts';

const DRAWS = ['0', '7'];
const verdicts: Verdict[] = [];
const proposals: { readonly confidence: number; readonly offHz: number }[] = [];
for (const draw of DRAWS) {
  const folder = mkdtempSync(join(tmpdir(), 'dialtune-validation-'));
  try {
    execFileSync('/usr/bin/python3', ['tests/validation/transmissions.py', folder, '0', '1', draw], { stdio: 'inherit' });
    for (const transmission of readManifest(folder)) {
      verdicts.push(await verdictOf(folder, transmission));
      if (transmission.kind !== 'ssb') continue;
      const proposal = await proposalFor(folder, transmission);
      if (proposal) proposals.push(proposal);
    }
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

const percent = ({ right, all }: { right: number; all: number }): string => (all === 0 ? '–' : `${((100 * right) / all).toFixed(1)} %`);
const table = (head: readonly string[], rows: readonly (readonly string[])[]): string =>
  [head, head.map(() => '---'), ...rows].map((row) => `| ${row.join(' | ')} |`).join('\n');

const recorded = verdicts.filter(({ transmission }) => transmission.recorded);
const synthetic = verdicts.filter(({ transmission }) => !transmission.recorded);
const sound = (all: readonly Verdict[]) => totalOf(ratesOf(all.filter(({ transmission }) => transmission.fault === null)));
const faulty = (all: readonly Verdict[]) => totalOf(ratesOf(all.filter(({ transmission }) => transmission.fault !== null)));
const verdictRows = ratesOf(verdicts).map(({ kind, fault, right, all }) => [kind, fault ?? '(sound)', `${right} of ${all}`]);

const numbers = verdicts.flatMap((verdict) => verdict.numbers);
const numberRows = [...new Set(numbers.map(({ key }) => key))].map((key) => {
  const errors = numbers.filter((each) => each.key === key).map(({ truth, measured }) => measured - truth);
  const worst = errors.reduce((most, error) => (Math.abs(error) > Math.abs(most) ? error : most), 0);
  const mean = errors.reduce((sum, error) => sum + error, 0) / errors.length;
  return [key, String(errors.length), mean.toPrecision(2), worst.toPrecision(2)];
});

const BINS: readonly (readonly [number, number])[] = [
  [0.8, 1.01],
  [0.5, 0.8],
  [0, 0.5],
];
const carrierRows = BINS.map(([low, high]) => {
  const those = proposals.filter(({ confidence }) => confidence >= low && confidence < high);
  const near = those.filter(({ offHz }) => Math.abs(offHz) <= 50).length;
  return [`${100 * low} % and more`, String(those.length), String(near)];
});

const wrong = verdicts
  .filter(({ isRight }) => !isRight)
  .map(({ transmission: { name, fault, rateHz, snrDb }, accused }) => [
    name,
    fault ?? '(sound)',
    `${rateHz / 1000} kHz, ${snrDb} dB`,
    accused.map(({ code }) => code).join(', ') || 'nothing',
  ]);

writeFileSync(
  'docs/validation/README.md',
  `# Validation

Written by \`npm run validate\`, core version ${CORE_VERSION}. The transmissions are made with SciPy
(\`tests/validation/transmissions.py\`), by equations of their own, from recorded human voices (Debian: pocketsphinx-testdata,
alsa-utils, asterisk-core-sounds-{en,es,fr,ru}-wav, asterisk-prompt-it-menardi-wav) and espeak-ng's: sound ones, and ones with
one fault, with pauses before, between and after, at several rates and noise levels. A quarter of them is measured in every
test run (\`tests/reference/validation.test.ts\`).

Of **sound** transmissions ${percent(sound(recorded))} (recorded voices, ${sound(recorded).all}) and ${percent(sound(synthetic))} (synthetic, ${sound(synthetic).all}) got no watch and no fault.
Of those with **one fault** ${percent(faulty(recorded))} (recorded, ${faulty(recorded).all}) and ${percent(faulty(synthetic))} (synthetic, ${faulty(synthetic).all}) got theirs.

${table(['kind', 'fault put in', 'right verdicts'], verdictRows)}

## Numbers of known truth

Measured minus true, in the number's own unit; noise-limited ones left out (they are upper bounds by definition).

${table(['number', 'recordings', 'mean error', 'largest error'], numberRows)}

## The SSB carrier

Proposed from the recording alone, without knowing the card. From 80 % on the app follows a proposal; below, it asks.

${table(['confidence', 'proposals', 'within 50 Hz'], carrierRows)}

## Wrong verdicts

${wrong.length === 0 ? 'None.' : table(['transmission', 'fault put in', 'rate, signal-to-noise', 'accused of'], wrong)}
`,
);
console.log(
  `${verdicts.length} transmissions, ${verdicts.filter(({ isRight }) => !isRight).length} wrong verdicts; docs/validation/README.md written`,
);
