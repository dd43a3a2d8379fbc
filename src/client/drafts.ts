/** What was typed and not saved yet, kept in this browser until it is: over a closed tab, a link or a crash. */

export interface KeptDraft<T> {
  readonly value: T;
  /** What the form began with: the server compares, and tells when somebody else was faster. */
  readonly base: T;
  /** When it was typed last, ISO 8601. */
  readonly at: string;
}

const PREFIX = 'dialtune-draft ';
const KEPT_MS = 60 * 86_400_000;

/** A form's shape may have changed since: a draft of another shape is of no use. Null stands for what was not chosen yet. */
const isLike = (a: unknown, b: unknown): boolean =>
  a === null || b === null || (typeof a === typeof b && Array.isArray(a) === Array.isArray(b));

/** @param like a value of the present shape */
export function readDraft<T>(key: string, like: T, storage: Pick<Storage, 'getItem'> = localStorage): KeptDraft<T> | null {
  try {
    const kept = JSON.parse(storage.getItem(PREFIX + key) ?? 'null') as KeptDraft<T> | null;
    if (!kept?.value || !isLike(kept.value, like) || !(Date.now() - Date.parse(kept.at) < KEPT_MS)) return null;
    const isWhole = Object.entries(like ?? {}).every(([name, part]) => isLike((kept.value as Record<string, unknown>)[name], part));
    return isWhole || Array.isArray(like) ? kept : null;
  } catch {
    return null;
  }
}

/** Keeps it, or forgets it when nothing is left to keep. */
export function writeDraft<T>(key: string, value: T, base: T): void {
  try {
    if (JSON.stringify(value) === JSON.stringify(base)) localStorage.removeItem(PREFIX + key);
    else localStorage.setItem(PREFIX + key, JSON.stringify({ value, base, at: new Date().toISOString() }));
  } catch {
    // Private windows may refuse, and stores are full some day: the form itself still holds it.
  }
}

export function forgetDraft(key: string): void {
  try {
    localStorage.removeItem(PREFIX + key);
  } catch {
    // Nothing could be kept there either.
  }
}
