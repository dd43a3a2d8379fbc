import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { noise, sine, wavBytes } from '../../../tests/support/signals.ts';
import { curveAt } from '../curve/curve.ts';
import { FormatError } from '../schema/formatError.ts';
import { readJson } from '../schema/json.ts';
import { type ByteSource, bytesInMemory, bytesOfBlob } from './byteSource.ts';
import { csv } from './csv.ts';
import { parseCurve } from './curveFile.ts';
import { fullScaleOf } from './sampleLayout.ts';
import { headOf, mixDown, openWav, readAll, readPart } from './samples.ts';
import { readWavInfo } from './wav.ts';
import { wavCoder } from './wavCoder.ts';
import { wavData, wavHeader, writeWav } from './wavWriter.ts';

const KINDS = [
  { bits: 8, encoding: 'pcm' },
  { bits: 16, encoding: 'pcm' },
  { bits: 24, encoding: 'pcm' },
  { bits: 32, encoding: 'pcm' },
  { bits: 32, encoding: 'float' },
  { bits: 64, encoding: 'float' },
] as const;

const open = (bytes: Uint8Array) => openWav(bytesInMemory(bytes));
const view = (bytes: Uint8Array) => new DataView(bytes.buffer);
const read = async (bytes: Uint8Array) => {
  const source = await open(bytes);
  const channels: number[][] = Array.from({ length: source.channels }, () => []);
  for await (const block of source.blocks()) for (const [c, samples] of block.entries()) channels[c].push(...samples);
  return { source, channels };
};

describe('coding many blocks of one channel', () => {
  it.each([7, 8, 1000])('gives what coding one by one gives, %i samples at a time', (size) => {
    const shape = { sampleRateHz: 8000, channels: 1, bits: 16, encoding: 'pcm' as const };
    const coded = wavCoder(shape);
    const samples = Float64Array.from({ length: 3000 }, (_, n) => 1.2 * Math.sin(n * n));
    samples.set([1, -1, 2, -2, 0.5 / 32768, -0.5 / 32768, 1.5 / 32768, NaN, Infinity, -Infinity]);
    for (let at = 0; at < samples.length; at += size) {
      const block = [samples.subarray(at, at + size)];
      expect([...coded(block)]).toEqual([...wavData(shape, block)]);
    }
  });
});

describe('WAV', () => {
  it.each(KINDS)('$encoding $bits bits comes back as it was written', async (kind) => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(fc.float({ min: -1, max: 1, noNaN: true }), fc.float({ min: -1, max: 1, noNaN: true })), {
          minLength: 1,
          maxLength: 50,
        }),
        fc.constantFrom(4000, 8000, 44100, 48000, 768000),
        async (pairs, sampleRateHz) => {
          const wanted = [0, 1].map((c) => Float64Array.from(pairs, (pair) => pair[c]));
          const { source, channels } = await read(writeWav({ sampleRateHz, channels: 2, ...kind }, wanted));
          expect(source).toMatchObject({ sampleRateHz, channels: 2, frames: pairs.length, warnings: [] });
          // One code at most: rounding, and +1.0 that has none.
          const step = kind.encoding === 'float' ? 1e-7 : 1.01 * 2 ** (1 - kind.bits);
          for (const c of [0, 1]) {
            channels[c].forEach((x, n) => {
              expect(Math.abs(x - wanted[c][n])).toBeLessThanOrEqual(step);
            });
          }
        },
      ),
      { numRuns: 30 },
    );
  });

  it('is read in blocks, from any place', async () => {
    const samples = noise(48000, 5, 0.1);
    const source = await open(wavBytes(48000, [samples]));
    expect(await readAll(source)).toEqual(samples);
    expect(await readPart(source, 100_000, 100_010)).toEqual(samples.subarray(100_000, 100_010));
    expect(await readPart(source, samples.length - 3, samples.length + 50)).toEqual(samples.subarray(-3));
  });

  it('can be read from its beginning only', async () => {
    const source = await open(wavBytes(8000, [noise(8000, 3, 0.1), noise(8000, 3, 0.1, 2)]));
    const head = headOf(source, 0.5);
    expect([head.frames, headOf(source, 9)]).toEqual([4000, source]);
    const counted = { split: 0, pairs: 0 };
    for await (const block of head.blocks({ from: 100 })) counted.split += block[0].length;
    for await (const block of head.interleaved()) counted.pairs += block.length;
    expect(counted).toEqual({ split: 3900, pairs: 8000 });
  });

  it('mixes channels to their mean or picks one', async () => {
    const block = [Float64Array.of(1, 0), Float64Array.of(0, -1)];
    expect([...mixDown(block)]).toEqual([0.5, -0.5]);
    expect(mixDown(block, 2)).toBe(block[1]);
  });

  it('counts what is no finite number and reads it as silence', async () => {
    const source = await open(wavBytes(8000, [Float64Array.of(0.5, NaN, Infinity, -Infinity, 0.25)]));
    let bad = 0;
    for await (const [samples] of source.blocks({ onNonFinite: (count) => (bad += count) }))
      expect([...samples]).toEqual([0.5, 0, 0, 0, 0.25]);
    expect(bad).toBe(3);
  });

  it('believes the bytes, not the header: cut short, and 2 GiB claimed', async () => {
    const whole = wavBytes(8000, [sine(8000, 440, 1)]);
    const cut = await open(whole.slice(0, 44 + 8 * 1000 + 3));
    expect(cut.frames).toBe(1000);
    expect(cut.warnings[0]).toContain('cut short');
    const boasting = whole.slice();
    view(boasting).setUint32(40, 2 ** 31, true);
    expect((await open(boasting)).frames).toBe(8000);
  });

  it('reads a recorder that never finished its header to the end', async () => {
    for (const size of [0, 0xffffffff]) {
      const open_ = wavBytes(8000, [sine(8000, 440, 1)]);
      view(open_).setUint32(40, size, true);
      expect((await open(open_)).frames).toBe(8000);
    }
  });

  it('finds the samples behind other chunks, and takes the extensible format', async () => {
    const plain = wavBytes(8000, [sine(8000, 440, 0.1)], { bits: 16, encoding: 'pcm' });
    const list = new Uint8Array([...'LIST'].map((c) => c.charCodeAt(0)).concat([5, 0, 0, 0], [1, 2, 3, 4, 5, 0]));
    const extensible = new Uint8Array(40 - 16);
    view(extensible).setUint16(0, 22, true);
    view(extensible).setUint16(8, 1, true);
    const bytes = new Uint8Array([...plain.slice(0, 36), ...extensible, ...list, ...plain.slice(36)]);
    view(bytes).setUint32(16, 40, true);
    view(bytes).setUint16(20, 0xfffe, true);
    expect((await open(bytes)).frames).toBe(800);
  });

  it('reads RF64 (EBU Tech 3306): sizes stand in its ds64 chunk', async () => {
    const header = wavHeader({ sampleRateHz: 96000, channels: 2, bits: 16, encoding: 'pcm' }, 2 ** 31);
    expect(String.fromCharCode(...header.slice(0, 4))).toBe('RF64');
    const huge: ByteSource = {
      size: header.length + 2 ** 33,
      read: async (offset, length) => (offset < header.length ? header.subarray(offset, offset + length) : new Uint8Array(length)),
    };
    expect(await readWavInfo(huge)).toMatchObject({ frames: 2 ** 31, channels: 2, warnings: [] });
  });

  it.each([
    ['nothing', new Uint8Array(0), 'empty'],
    ['text', new TextEncoder().encode('<html><body>hello world</body></html>'), 'a text file'],
    ['an MP3', new TextEncoder().encode('ID3\u0004 some bytes of a song'), 'an MP3 file'],
    ['a header alone', wavBytes(8000, [new Float64Array(0)]), 'no samples'],
    [
      '9 channels',
      writeWav({ sampleRateHz: 8000, channels: 9, bits: 16, encoding: 'pcm' }, new Array(9).fill(new Float64Array(9))),
      '9 channels',
    ],
    ['2 kHz', wavBytes(2000, [sine(2000, 100, 1)]), '2000 Hz'],
    ['30 MHz', wavBytes(30_000_000, [sine(30_000_000, 1000, 0.0001)]), '30000000 Hz'],
  ])('refuses %s with one sentence', async (_, bytes, words) => {
    await expect(open(bytes)).rejects.toThrow(FormatError);
    await expect(open(bytes)).rejects.toThrow(words);
  });

  it('refuses compressed codings and contradictions by name', async () => {
    const change = (at: number, value: number) => {
      const bytes = wavBytes(8000, [sine(8000, 440, 0.1)], { bits: 16, encoding: 'pcm' });
      view(bytes).setUint16(at, value, true);
      return open(bytes);
    };
    await expect(change(20, 85)).rejects.toThrow('compressed');
    await expect(change(34, 48)).rejects.toThrow('48-bit');
    await expect(change(32, 3)).rejects.toThrow('contradicts');
    await expect(change(22, 0)).rejects.toThrow('0 channels');
  });

  it('never breaks on hostile bytes', async () => {
    const start = wavBytes(8000, [sine(8000, 440, 0.01)], { bits: 16, encoding: 'pcm' });
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(fc.nat(start.length - 1), fc.nat(255)), { minLength: 1, maxLength: 12 }),
        fc.nat(start.length),
        async (changes, length) => {
          const bytes = start.slice();
          for (const [at, value] of changes) bytes[at] = value;
          try {
            const { source, channels } = await read(bytes.slice(0, length));
            expect(channels[0]).toHaveLength(source.frames);
            expect(channels.flat().every(Number.isFinite)).toBe(true);
          } catch (error) {
            expect(error).toBeInstanceOf(FormatError);
          }
        },
      ),
      { numRuns: 300 },
    );
  });

  it('puts full scale where the contract has it: the extreme 16-bit codes, floats at 1 - 2^-15', () => {
    expect(fullScaleOf({ encoding: 'pcm', bits: 16 })).toEqual({ positive: 32767 / 32768, negative: -1 });
    expect(fullScaleOf({ encoding: 'pcm', bits: 8 })).toEqual({ positive: 127 / 128, negative: -1 });
    expect(fullScaleOf({ encoding: 'float', bits: 32 }).positive).toBe(1 - 2 ** -15);
    // 24-bit codes that would become 32767 and -32768 of 16 bits.
    const { positive, negative } = fullScaleOf({ encoding: 'pcm', bits: 24 });
    expect(0x7fff00 / 2 ** 23).toBeGreaterThanOrEqual(positive);
    expect(0x7ffeff / 2 ** 23).toBeLessThan(positive);
    expect((-0x800000 + 0xff) / 2 ** 23).toBeLessThanOrEqual(negative);
    expect((-0x800000 + 0x100) / 2 ** 23).toBeGreaterThan(negative);
  });

  it('reads a browser file as it reads memory', async () => {
    const bytes = wavBytes(8000, [sine(8000, 440, 0.5)]);
    const source = await openWav(bytesOfBlob(new Blob([bytes as Uint8Array<ArrayBuffer>])));
    expect(await readAll(source)).toEqual(sine(8000, 440, 0.5));
  });
});

describe('curves', () => {
  it('are read with any of the usual separators and a heading', () => {
    const wanted = [
      [100, -3],
      [1000, 0.5],
    ];
    for (const text of ['100,-3\n1000,0.5', '# mic\nHz;dB\n100; -3\r\n1000; 0.5\r\n', '100\t-3\n\n1000   0.5', '\uFEFF100 -3\r1000 0.5']) {
      expect(parseCurve(text)).toEqual(wanted);
    }
  });

  it.each([
    ['1000 0\n500 3', 'does not come after'],
    ['100 1\n100 2', 'does not come after'],
    ['100 1', 'two points'],
    ['', 'two points'],
    ['100 1\n200 x', 'Line 2'],
    ['100 1\n200 1 1', 'Line 2'],
    ['-5 1\n200 1', '-5 Hz'],
    ['100 1\n200 1e999', 'Line 2'],
  ])('refuse %j and name the line', (text, words) => {
    expect(() => parseCurve(text)).toThrow(words);
    expect(() => parseCurve(text)).toThrow(FormatError);
  });

  it('run straight over log frequency and level beyond the ends', () => {
    const points = parseCurve('100 0\n400 6');
    expect(curveAt(points, 200)).toBeCloseTo(3, 12);
    expect(curveAt(points, 50)).toBe(0);
    expect(curveAt(points, 9000)).toBe(6);
  });
});

describe('JSON from strangers', () => {
  it('comes as it is, with or without a byte order mark', () => {
    fc.assert(
      fc.property(fc.jsonValue({ maxDepth: 5 }), (value) => {
        const text = JSON.stringify(value);
        if (/"(__proto__|constructor|prototype)":/.test(text)) return;
        expect(readJson(text)).toEqual(JSON.parse(text));
        expect(readJson(`\uFEFF${text}`)).toEqual(JSON.parse(text));
      }),
    );
  });

  it.each([
    ['', 'not valid JSON'],
    ['{"a":', 'not valid JSON'],
    ['{"a":{"__proto__":{"isAdmin":true}}}', '"__proto__" is not allowed'],
    ['[{"constructor":1}]', '"constructor" is not allowed'],
    ['['.repeat(100_000), 'nested'],
    [`${'{"a":'.repeat(60)}1${'}'.repeat(60)}`, 'nested'],
    [`"${'x'.repeat(1_000_001)}"`, 'too large'],
  ])('%#: refused in words', (text, words) => {
    expect(() => readJson(text)).toThrow(FormatError);
    expect(() => readJson(text)).toThrow(words);
  });

  it('brackets inside strings do not count as nesting', () => {
    const text = JSON.stringify(['['.repeat(500), '"\\"{{{'.repeat(100)]);
    expect(readJson(text)).toEqual(JSON.parse(text));
  });
});

describe('CSV (RFC 4180)', () => {
  /** A reader of its own: RFC 4180 cells of one line. */
  const cellsOf = (line: string) =>
    [...line.matchAll(/(?:"((?:[^"]|"")*)"|([^,]*))(?:,|$)/g)].slice(0, -1).map((m) => m[1]?.replaceAll('""', '"') ?? m[2]);

  it('cells come back, whatever is in them, and none is a formula', () => {
    const text = fc.string().filter((each) => !/[\r\n]/.test(each));
    fc.assert(
      fc.property(fc.array(text, { minLength: 1, maxLength: 5 }), (row) => {
        const cells = cellsOf(`${csv([row]).trimEnd().replace(/\r\n$/, '')}`);
        for (const cell of cells) expect(cell).not.toMatch(/^\s*[=+\-@]/);
      }),
    );
  });

  it('quotes what must be quoted; numbers stay numbers', () => {
    expect(csv([['a,b', 'say "hi"', -3.5, null, 'two\nlines']])).toBe('"a,b","say ""hi""",-3.5,,"two\nlines"\r\n');
  });

  it.each(['=1+1', '+1', '-1', '@SUM(A1)', '\t=1', '  =1', '\uFF1D1+1', '\u200B=1', '\u00A0\uFEFF-1', '\u2060\uFF20SUM(A1)'])(
    '%j is text',
    (cell) => {
      expect(csv([[cell]]).replace(/^"/, '')).toMatch(/^'/);
    },
  );
});
