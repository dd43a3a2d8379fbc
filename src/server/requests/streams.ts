/** Bodies of answers that are made while they are taken. */

/**
 * A stream over what an iterator gives, asked for piece by piece; a reader that goes away ends the iterator.
 * (Readable.toWeb throws past everybody when its reader goes away: Node.js 20.)
 * @param release is called once, when all is taken, the reader has gone or a piece failed
 */
export function streamOf(pieces: AsyncIterable<Uint8Array>, release: () => Promise<void> = async () => {}): ReadableStream<Uint8Array> {
  const iterator = pieces[Symbol.asyncIterator]();
  return new ReadableStream<Uint8Array>(
    {
      async pull(controller) {
        const { done, value } = await iterator.next().catch(async (error) => {
          await release();
          throw error;
        });
        if (!done) return controller.enqueue(value);
        controller.close();
        await release();
      },
      async cancel() {
        await iterator.return?.();
        await release();
      },
    },
    { highWaterMark: 0 },
  );
}
