/** Which receiver a file's name speaks of. */

const words = (text: string): string[] =>
  text
    .toLowerCase()
    .split(/[^a-z0-9]+/)
    .filter((word) => word.length > 1 && !COMMON.has(word));
/** Words of files and receivers that tell nothing. */
const COMMON = new Set(['receiver', 'remote', 'wav', 'over', 'recording', 'the', 'audio', 'iq']);

/** "main" is short for "mainland". */
const isShort = (said: string, word: string): boolean => said === word || (said.length >= SHORTEST && word.startsWith(said));
const SHORTEST = 4;

/** @returns null where the name fits none, or two alike */
export function receiverNamed<R extends { readonly name: string }>(fileName: string, receivers: readonly R[]): R | null {
  const said = words(fileName);
  const scored = receivers.map((receiver) => ({
    receiver,
    hits: words(receiver.name).filter((word) => said.some((each) => isShort(each, word))).length,
  }));
  const best = Math.max(0, ...scored.map(({ hits }) => hits));
  const [first, ...others] = scored.filter(({ hits }) => hits === best);
  return best > 0 && others.length === 0 ? first.receiver : null;
}
