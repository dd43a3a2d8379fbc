import { describe, expect, it } from 'vitest';
import { asRecordings } from './upload.ts';

describe('files as recordings', () => {
  const file = (name: string) => new File(['x'], name);
  it('SigMF’s two files are one, whatever comes first; a half alone is told', () => {
    const files = ['a.wav', 'b.sigmf-data', 'b.sigmf-meta', 'c.sigmf-meta'].map(file);
    for (const order of [files, [...files].reverse()]) {
      const { recordings, halves } = asRecordings(order);
      expect(recordings.map(({ name }) => name).sort()).toEqual(['a.wav', 'b']);
      expect(recordings.find(({ name }) => name === 'b')).toMatchObject({ file: { name: 'b.sigmf-data' }, meta: { name: 'b.sigmf-meta' } });
      expect(halves).toEqual(['c.sigmf-meta']);
    }
    expect(asRecordings([])).toEqual({ recordings: [], halves: [] });
  });
});
