/** Samples put together again that a stream gave in parts. */

/** The parts one after the other; a single part as it is, not copied. */
export function joined(parts: readonly Float64Array[]): Float64Array {
  if (parts.length === 1) return parts[0];
  const all = new Float64Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    all.set(part, at);
    at += part.length;
  }
  return all;
}
