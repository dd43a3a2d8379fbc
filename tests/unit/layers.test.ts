/** The rule of the house: arrows point down; core knows nothing of Node, React, the DOM or the database. */
import { readdirSync, readFileSync } from 'node:fs';
import { dirname, join, relative, resolve } from 'node:path';
import { describe, expect, it } from 'vitest';

const SRC = resolve('src');
/** What each part may import beside itself. */
const PARTS: Record<string, readonly string[]> = {
  core: [],
  cli: ['core'],
  server: ['core'],
  workers: ['core'],
  ui: ['core'],
  client: ['core', 'server'],
  app: ['core', 'server', 'workers', 'client', 'ui'],
};
/** Floors of core; a floor imports lower ones. Formats is on the floor of modulation. */
const FLOORS: Record<string, number> = {
  signal: 1,
  modulation: 2,
  formats: 2,
  measure: 3,
  station: 3,
  transmitter: 4,
  path: 4,
  hearing: 5,
  advice: 6,
  practice: 7,
};
/** Packages that core may use: pure computation. */
const CORE_PACKAGES = ['fft.js', 'ajv', 'hash-wasm', 'json-schema-to-ts'];

function filesUnder(folder: string): string[] {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) return filesUnder(path);
    return /\.tsx?$/.test(entry.name) && !entry.name.includes('.test.') ? [path] : [];
  });
}

interface Import {
  readonly from: string;
  readonly to: string;
}

const files = filesUnder(SRC);
const imports: Import[] = files.flatMap((file) => {
  const text = readFileSync(file, 'utf8');
  const named = [...text.matchAll(/(?:from|import)\s*\(?\s*'([^']+)'/g)].map((match) => match[1]);
  return named.map((name) => {
    const target = name.startsWith('@/') ? join(SRC, name.slice(2)) : name.startsWith('.') ? resolve(dirname(file), name) : name;
    return { from: relative(SRC, file), to: target.startsWith(SRC) ? relative(SRC, target) : target };
  });
});
const partOf = (path: string) => path.split('/')[0];
const isInside = (path: string) => files.some((file) => relative(SRC, file) === path) || path in PARTS;

describe('layers', () => {
  it('are looked at for real', () => {
    expect(files.length).toBeGreaterThan(80);
    expect(imports.length).toBeGreaterThan(300);
  });

  it('point down: app -> ui, server, workers -> core', () => {
    const wrong = imports.filter(({ from, to }) => {
      const [a, b] = [partOf(from), partOf(to)];
      return isInside(to) && a in PARTS && a !== b && !PARTS[a].includes(b);
    });
    expect(wrong).toEqual([]);
  });

  it('core imports nothing outside core but pure packages', () => {
    const outside = imports.filter(({ from, to }) => partOf(from) === 'core' && !to.startsWith('core/') && !CORE_PACKAGES.includes(to));
    expect(outside).toEqual([]);
  });

  it('inside core a floor imports lower floors or itself', () => {
    const floorOf = (path: string) => FLOORS[path.split('/')[1]];
    const up = imports.filter(({ from, to }) => {
      if (partOf(from) !== 'core' || !to.startsWith('core/')) return false;
      const [a, b] = [floorFolder(from), floorFolder(to)];
      return floorOf(from) < floorOf(to) || (a !== b && floorOf(from) === floorOf(to));
    });
    expect(up).toEqual([]);
    for (const file of files) if (file.startsWith(join(SRC, 'core'))) expect(floorOf(relative(SRC, file))).toBeGreaterThan(0);
  });

  it('core uses no globals of Node or the DOM', () => {
    const globals = /\b(?:process\.(?:env|argv|cwd|std)|Buffer\.|document\.|window\.(?!ts)|localStorage|navigator\.)/;
    const using = files.filter(
      (file) => file.startsWith(join(SRC, 'core')) && globals.test(readFileSync(file, 'utf8').replaceAll(/\/\*[\s\S]*?\*\/|\/\/.*/g, '')),
    );
    expect(using).toEqual([]);
  });

  it('pages ask the server by asked() or a form: a server that is away is told in words', () => {
    const raw = files.flatMap((file) => {
      const text = readFileSync(file, 'utf8');
      const [, names = ''] = /import \{([^}]*)\} from '[./]*\/actions\.ts'/.exec(text) ?? [];
      return names
        .split(',')
        .map((name) => name.trim())
        .filter((name) => name !== '' && !name.startsWith('type '))
        .flatMap((name) =>
          [...text.matchAll(new RegExp(`.*await\\s+${name}\\(.*`, 'g'))].map(([line]) => `${relative(SRC, file)}: ${line.trim()}`),
        );
    });
    // In what is handed to useForm the form itself asks.
    expect(raw.filter((line) => !line.startsWith('app/station/microphones/MicrophoneEditor.tsx'))).toEqual([]);
  });

  it('there are no circles', () => {
    const graph = new Map<string, string[]>();
    for (const { from, to } of imports) graph.set(from, [...(graph.get(from) ?? []), to]);
    const state = new Map<string, 'open' | 'done'>();
    const circles: string[] = [];
    const visit = (file: string, trail: string[]) => {
      if (state.get(file) === 'open') circles.push([...trail, file].join(' -> '));
      if (state.has(file)) return;
      state.set(file, 'open');
      for (const next of graph.get(file) ?? []) visit(next, [...trail, file]);
      state.set(file, 'done');
    };
    for (const file of graph.keys()) visit(file, []);
    expect(circles).toEqual([]);
  });
});

function floorFolder(path: string): string {
  return path.split('/').slice(0, 2).join('/');
}
