/** The two ways a command ends badly. */

/** Wrong words on the command line: exit 2. */
export class UsageError extends Error {}

/** A file that can't be read or makes no sense: exit 1. */
export class InputError extends Error {}
