/** Lines typed before, newest first, kept in the browser. */
const KEY = 'dialtune-lines';
const MOST = 30;

export function recall(): readonly string[] {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(KEY) ?? '[]');
    return Array.isArray(kept) ? kept.filter((each) => typeof each === 'string') : [];
  } catch {
    return [];
  }
}

export function remember(line: string): void {
  const words = line.trim();
  try {
    localStorage.setItem(KEY, JSON.stringify([words, ...recall().filter((each) => each !== words)].slice(0, MOST)));
  } catch {
    // Private windows may refuse; the line is then recalled no more.
  }
}
