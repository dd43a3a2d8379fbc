/** A number typed in a field that may stay empty: null when empty, undefined when it makes no sense. */
export function parseReading(text: string, most: number): number | null | undefined {
  const words = text.trim().replace(',', '.');
  if (words === '') return null;
  const value = Number(words);
  return /^\d*\.?\d+$/.test(words) && value <= most && (most <= 1 || value > 0) ? value : undefined;
}
