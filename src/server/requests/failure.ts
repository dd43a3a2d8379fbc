/** What a failure of the database or the disk was, read off the error that it left. */
import { BaseError, ConnectionError, ForeignKeyConstraintError, UniqueConstraintError } from 'sequelize';

export type Failure = 'database-away' | 'conflict' | 'disk-full' | 'broken-off' | 'unknown';

/** Two changes at once: deadlock, lock wait timeout, a record that changed since it was read. MariaDB error codes. */
const CONFLICTS = [1213, 1205, 1020];
/** Disk full, table full, error writing a file. */
const FULL = [1021, 1026, 1114];

interface Cause {
  readonly name?: string;
  readonly message?: string;
  readonly code?: unknown;
  readonly errno?: unknown;
  readonly parent?: unknown;
  readonly cause?: unknown;
}

/** An error and what caused it, outermost first. */
function* chainOf(error: unknown): Generator<Cause> {
  for (let at = error as Cause | undefined, depth = 0; at && typeof at === 'object' && depth < 6; depth++) {
    yield at;
    at = (at.parent ?? at.cause) as Cause | undefined;
  }
}

/** Whether the disk of the server or of the database was full. */
export const isFull = (error: unknown): boolean =>
  [...chainOf(error)].some(
    ({ code, errno, message = '' }) =>
      code === 'ENOSPC' || FULL.includes(errno as number) || /No space left|errno: 28\b|disk (?:is )?full/i.test(message),
  );

const isConflict = (error: unknown): boolean =>
  error instanceof UniqueConstraintError ||
  error instanceof ForeignKeyConstraintError ||
  [...chainOf(error)].some(({ errno }) => CONFLICTS.includes(errno as number));

/** Codes of a connection that could not be made or went away under a question. */
const AWAY =
  /^(?:ECONN\w+|EPIPE|ETIMEDOUT|ENOTFOUND|EAI_AGAIN|PROTOCOL_\w+|ER_(?:SOCKET|CONNECTION|GET_CONNECTION|CMD_CONNECTION)_?\w*|ER_SERVER_SHUTDOWN)$/;

const isAway = (error: unknown): boolean =>
  error instanceof ConnectionError ||
  [...chainOf(error)].some(
    ({ name = '', code, errno }) =>
      /Connection(?:Acquire|Refused|TimedOut|)\w*Error/.test(name) || AWAY.test(String(code)) || errno === 1053 || errno === 1927,
  );

/** Whoever asked went away before all was sent or taken. */
const isBrokenOff = (error: unknown): boolean => {
  const { name, message } = (error ?? {}) as Cause;
  return name === 'ResponseAborted' || name === 'AbortError' || message === 'aborted';
};

export function failureOf(error: unknown): Failure {
  if (isBrokenOff(error)) return 'broken-off';
  if (isFull(error)) return 'disk-full';
  if (isConflict(error)) return 'conflict';
  if (isAway(error)) return 'database-away';
  return 'unknown';
}

/** Whether it is worth trying again by itself later. */
export const isPassing = (error: unknown): boolean =>
  error instanceof BaseError && ['database-away', 'conflict'].includes(failureOf(error));
