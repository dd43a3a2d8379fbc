import { describe, expect, it } from 'vitest';
import { FormatError } from '../schema/formatError.ts';
import { bytesInMemory } from './byteSource.ts';
import { openSigmf, parseSigmfMeta, sigmfFrequencyHz, sigmfLayout, sigmfMetaFor } from './sigmf.ts';
import { sha512, sha512Warnings } from './sigmfChecksum.ts';

const metaText = (global: object = {}, more: object = {}) =>
  JSON.stringify({
    global: { 'core:datatype': 'ci16_le', 'core:sample_rate': 48000, 'core:version': '1.0.0', ...global },
    captures: [{ 'core:sample_start': 0, 'core:frequency': 7.1e6 }],
    annotations: [],
    ...more,
  });

const read = async (datatype: string, bytes: Uint8Array) => {
  const source = openSigmf(parseSigmfMeta(metaText({ 'core:datatype': datatype })), bytesInMemory(bytes));
  const got: number[][] = [[], []];
  for await (const block of source.blocks()) for (const [c, part] of block.entries()) got[c].push(...part);
  const pairs: number[] = [];
  for await (const block of source.interleaved())
    pairs.push(...(block instanceof Int16Array ? [...block].map((code) => code / 32768) : block));
  return { source, i: got[0], q: got[1], pairs };
};

describe('SigMF', () => {
  it.each([
    ['ci16_le', new Uint8Array(Int16Array.of(16384, -16384, 32767, -32768).buffer), [0.5, 32767 / 32768], [-0.5, -1]],
    ['ci8', new Uint8Array(Int8Array.of(64, -64, 127, -128).buffer), [0.5, 127 / 128], [-0.5, -1]],
    ['cu8', Uint8Array.of(192, 64, 255, 0), [0.5, 127 / 128], [-0.5, -1]],
    ['cf32_le', new Uint8Array(Float32Array.of(0.5, -0.5, 0.25, -1).buffer), [0.5, 0.25], [-0.5, -1]],
    ['ci32_le', new Uint8Array(Int32Array.of(2 ** 30, -(2 ** 30), 0, -(2 ** 31)).buffer), [0.5, 0], [-0.5, -1]],
  ])('%s samples come out as they were put in, by both ways of reading', async (type, bytes, i, q) => {
    const got = await read(type, bytes);
    expect(got.i).toEqual(i);
    expect(got.q).toEqual(q);
    expect(got.pairs).toEqual([i[0], q[0], i[1], q[1]]);
    expect(got.source).toMatchObject({ channels: 2, frames: 2, sampleRateHz: 48000, warnings: [] });
  });

  it('reads 16-bit samples at odd places, and counts what is no number', async () => {
    const odd = new Uint8Array(9).subarray(1);
    odd.set(new Uint8Array(Int16Array.of(1, 2, 3, 4).buffer));
    expect((await read('ci16_le', odd)).i).toEqual([1 / 32768, 3 / 32768]);
    const source = openSigmf(
      parseSigmfMeta(metaText({ 'core:datatype': 'cf32_le' })),
      bytesInMemory(new Uint8Array(Float32Array.of(Number.NaN, 1).buffer)),
    );
    let bad = 0;
    for await (const block of source.interleaved({ onNonFinite: (count) => (bad += count) })) expect([...block]).toEqual([0, 1]);
    expect(bad).toBe(1);
  });

  it.each([
    ['not JSON', 'hello', /not valid JSON/],
    ['no global part', '{"captures":[],"annotations":[]}', /global/],
    [
      'no sample rate',
      JSON.stringify({ global: { 'core:datatype': 'ci8', 'core:version': '1' }, captures: [], annotations: [] }),
      /sample_rate/,
    ],
    ['a text as the rate', metaText({ 'core:sample_rate': '48000' }), /sample_rate/],
    ['another datatype', metaText({ 'core:datatype': 'ci16_be' }), /can't be read/],
    ['a key of all objects as the datatype', metaText({ 'core:datatype': 'toString' }), /can't be read/],
    ['several channels', metaText({ 'core:num_channels': 2 }), /2 channels/],
    ['facts only', metaText({ 'core:metadata_only': true }), /facts only/],
    ['a rate out of reach', metaText({ 'core:sample_rate': 1 }), /sample rate/],
  ])('refuses a meta file with %s', (_, text, message) => {
    expect(() => parseSigmfMeta(text)).toThrow(FormatError);
    expect(() => parseSigmfMeta(text)).toThrow(message);
  });

  it('says where meta and data disagree', async () => {
    const meta = parseSigmfMeta(metaText({}, { annotations: [{ 'core:sample_start': 99 }] }));
    expect(sigmfLayout(meta, 41).warnings.join(' ')).toMatch(/1 bytes at its end.*disagree/);
    expect(() => sigmfLayout(meta, 3)).toThrow(/no samples/);
    expect(sigmfFrequencyHz(meta)).toBe(7.1e6);
    const data = bytesInMemory(Uint8Array.of(1, 2, 3, 4));
    const told = (hash: string) => parseSigmfMeta(metaText({ 'core:sha512': hash }));
    expect(await sha512Warnings(told(await sha512(data)), data)).toEqual([]);
    expect((await sha512Warnings(told('0'.repeat(128)), data)).join()).toMatch(/SHA-512 differs/);
  });

  it('writes the meta file that reads back as the same layout', () => {
    const layout = { sampleRateHz: 96000, channels: 2, bits: 16, encoding: 'pcm', dataOffset: 44, frames: 10, warnings: [] } as const;
    const meta = parseSigmfMeta(JSON.stringify(sigmfMetaFor(layout, { description: 'test' })));
    expect(sigmfLayout(meta, 40)).toMatchObject({ ...layout, dataOffset: 0 });
    expect(() => sigmfMetaFor({ ...layout, channels: 1 }, { description: '' })).toThrow(/I and Q/);
    expect(() => sigmfMetaFor({ ...layout, bits: 24 }, { description: '' })).toThrow(/24-bit/);
  });
});
