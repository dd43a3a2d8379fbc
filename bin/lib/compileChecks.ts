/**
 * Compiles the schemas of files into plain functions, at development time: pages run under a Content-Security-Policy
 * that lets no text become code, which is what Ajv does when it compiles.
 */
import Ajv from 'ajv';
import standaloneCode from 'ajv/dist/standalone/index.js';
import { build } from 'esbuild';
import { historySchema } from '../../src/core/advice/next/historyFile.ts';
import { metaSchema } from '../../src/core/files/sigmf.ts';
import { cardSchema } from '../../src/core/rig/card.ts';
import { microphoneSchema } from '../../src/core/rig/microphone.ts';
import { rigSchema } from '../../src/core/rig/rig.ts';
import { stationSchema } from '../../src/core/simulate/station/stationFile.ts';

const SCHEMAS = {
  rig: rigSchema,
  card: cardSchema,
  microphone: microphoneSchema,
  sigmf: metaSchema,
  station: stationSchema,
  history: historySchema,
};
const OPTIONS = { allowUnionTypes: true, strictTuples: false, strictRequired: false, discriminator: true } as const;

// The module's default export comes wrapped when it is loaded as it is.
const standalone = ((standaloneCode as { default?: unknown }).default ?? standaloneCode) as (
  ajv: Ajv,
  refs: Record<string, string>,
) => string;

/** One way to check every file: stop at the first error, or collect all. */
function sourceOf(allErrors: boolean): string {
  const ajv = new Ajv({ ...OPTIONS, allErrors, code: { source: true } });
  for (const [name, schema] of Object.entries(SCHEMAS)) ajv.addSchema(schema, name);
  return standalone(ajv, Object.fromEntries(Object.keys(SCHEMAS).map((name) => [name, name])));
}

/** Run when the first of them is asked for: most of what imports a schema never checks anything. */
const lazy = (names: readonly string[]): string =>
  [
    `let all; const made = () => (all ??= require('checks'));`,
    `const late = (name) => { const check = (input) => { const found = made()[name]; const isRight = found(input); check.errors = found.errors; return isRight; }; return check; };`,
    ...names.map((name) => `export const ${name} = late('${name}');`),
  ].join('\n');

/** What Ajv writes, with the few helpers that it asks for. */
export async function compiledChecks(suffix: 'Quick' | 'Thorough'): Promise<string> {
  const contents = sourceOf(suffix === 'Thorough');
  const names = Object.keys(SCHEMAS);
  const { outputFiles } = await build({
    stdin: { contents: lazy(names), resolveDir: process.cwd() },
    bundle: true,
    write: false,
    format: 'esm',
    minify: true,
    banner: { js: '// Written by npm run schemas. Do not edit.' },
    plugins: [
      {
        name: 'checks',
        setup(own) {
          own.onResolve({ filter: /^checks$/ }, () => ({ path: 'checks', namespace: 'checks' }));
          own.onLoad({ filter: /.*/, namespace: 'checks' }, () => ({ contents, loader: 'js', resolveDir: process.cwd() }));
        },
      },
    ],
  });
  return outputFiles[0].text;
}
