import { describe, expect, it } from 'vitest';
import { readDraft } from './drafts.ts';

const store = (entry: unknown) => ({ getItem: () => (typeof entry === 'string' ? entry : JSON.stringify(entry)) });
const now = new Date().toISOString();
const like = { name: '', dials: { a: 1 }, points: [1], use: null as object | null };
const value = { name: 'x', dials: {}, points: [], use: null };

describe('a kept draft', () => {
  it('comes back with what it was made from', () => {
    expect(readDraft('k', like, store({ value, base: like, at: now }))).toEqual({ value, base: like, at: now });
  });

  it.each([
    ['nothing', null],
    ['no JSON', '{'],
    ['another shape', { value: 'text', base: '', at: now }],
    ['a field of another kind', { value: { ...value, name: 3 }, base: like, at: now }],
    ['a list for an object', { value: { ...value, dials: [] }, base: like, at: now }],
    ['a field that is gone', { value: { name: 'x' }, base: like, at: now }],
    ['two months old', { value, base: like, at: new Date(Date.now() - 61 * 86_400_000).toISOString() }],
    ['no time', { value, base: like }],
  ])('%s is no draft', (_, entry) => {
    expect(readDraft('k', like, store(entry))).toBeNull();
  });

  it('a choice that was not made yet may have been made, and the other way round', () => {
    expect(readDraft('k', like, store({ value: { ...value, use: { distanceCm: 5 } }, base: like, at: now }))).not.toBeNull();
    expect(readDraft('k', { ...like, use: {} }, store({ value, base: like, at: now }))).not.toBeNull();
  });
});
