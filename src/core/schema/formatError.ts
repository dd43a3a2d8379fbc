/** A file that can't be read, with the one clear sentence that says why. */
export class FormatError extends Error {
  override name = 'FormatError';
}
