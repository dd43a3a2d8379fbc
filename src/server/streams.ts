/** Bodies of answers that are made while they are taken. */

/**
 * A stream over what an iterator gives, asked for piece by piece; a reader that goes away ends the iterator.
 * (Readable.toWeb throws past everybody when its reader goes away: Node.js 20.)
 */
export function streamOf(pieces: AsyncIterable<Uint8Array>): ReadableStream<Uint8Array> {
  const iterator = pieces[Symbol.asyncIterator]();
  return new ReadableStream<Uint8Array>(
    {
      async pull(controller) {
        const { done, value } = await iterator.next();
        if (done) controller.close();
        else controller.enqueue(value);
      },
      async cancel() {
        await iterator.return?.();
      },
    },
    { highWaterMark: 0 },
  );
}
