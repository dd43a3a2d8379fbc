/** Lines of text as a download, sent as they are made. */
import { streamOf } from './streams.ts';

const PIECE_CHARACTERS = 1 << 16;

/** @param name of the file */
export async function textResponse(lines: AsyncGenerator<string> | Generator<string>, type: string, name: string): Promise<Response> {
  // Asked for the first line here: a database that is away is told in words, not by a file that breaks off.
  const first = await lines.next();
  const whole = async function* () {
    if (!first.done) yield Buffer.from(first.value);
    // Many lines a piece: each piece is a turn of the whole machine.
    let held = '';
    for await (const line of lines) {
      held += line;
      if (held.length < PIECE_CHARACTERS) continue;
      yield Buffer.from(held);
      held = '';
    }
    yield Buffer.from(held);
  };
  return new Response(streamOf(whole()), { headers: { 'content-type': type, 'content-disposition': `attachment; filename="${name}"` } });
}
