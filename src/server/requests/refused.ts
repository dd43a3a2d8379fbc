/** HTTP status of a change that was made from values that are no longer the present ones. */
export const OVERTAKEN = 412;

/** Something the server will not do, with the one sentence that tells people why. */
export class Refused extends Error {
  override name = 'Refused';
  constructor(
    message: string,
    /** HTTP status that fits. */
    readonly status = 400,
    /** Where to look instead, if anywhere. */
    readonly link?: string,
  ) {
    super(message);
  }
}
