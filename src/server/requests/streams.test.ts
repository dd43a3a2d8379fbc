import { describe, expect, it } from 'vitest';
import { streamOf } from './streams.ts';

const piece = (n: number) => new Uint8Array([n]);

describe('a stream over an iterator', () => {
  const made = (work: () => AsyncGenerator<Uint8Array>) => {
    let released = 0;
    const stream = streamOf(work(), async () => {
      released++;
    });
    return { stream, released: () => released };
  };

  it('gives every piece in order, and lets go at the end', async () => {
    const { stream, released } = made(async function* () {
      for (const n of [1, 2, 3]) yield piece(n);
    });
    expect([...new Uint8Array(await new Response(stream).arrayBuffer())]).toEqual([1, 2, 3]);
    expect(released()).toBe(1);
  });

  it('asks for nothing before it is read, and lets go of what was never begun', async () => {
    let asked = 0;
    const { stream, released } = made(async function* () {
      asked++;
      yield piece(1);
    });
    await stream.cancel();
    expect([asked, released()]).toEqual([0, 1]);
  });

  it('ends the iterator when its reader goes away', async () => {
    let isEnded = false;
    const { stream, released } = made(async function* () {
      try {
        for (let n = 0; ; n++) yield piece(n);
      } finally {
        isEnded = true;
      }
    });
    const reader = stream.getReader();
    await reader.read();
    await reader.cancel();
    expect([isEnded, released()]).toEqual([true, 1]);
  });

  it('breaks off with the reason when a piece fails', async () => {
    const { stream, released } = made(async function* () {
      yield piece(1);
      throw new Error('the disk is gone');
    });
    await expect(new Response(stream).arrayBuffer()).rejects.toThrow('the disk is gone');
    expect(released()).toBe(1);
  });
});
