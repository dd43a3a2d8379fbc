/** Numbers as operators read them: real minus sign, unit, few digits. */

const MINUS = '−';

/** Fixed digits with a real minus sign; a value that rounds to zero has no sign. */
export function fixed(value: number, digits: number): string {
  const text = Math.abs(value).toFixed(digits);
  return value < 0 && Number(text) !== 0 ? `${MINUS}${text}` : text;
}

/** With a plus sign too. */
export function signed(value: number, digits: number): string {
  const text = fixed(value, digits);
  return value > 0 && Number(Math.abs(value).toFixed(digits)) !== 0 ? `+${text}` : text;
}

export const decibels = (value: number | null, digits = 1): string => (value === null ? 'not measurable' : `${fixed(value, digits)} dB`);

export const hertz = (hz: number): string => (hz < 1000 ? `${Math.round(hz)} Hz` : `${Number((hz / 1000).toFixed(2))} kHz`);

export const percent = (share: number, digits = 0): string => `${fixed(100 * share, digits)} %`;

/** 1 min 05 s, 8.4 s. */
export function duration(seconds: number): string {
  if (seconds < 60) return `${seconds.toFixed(1)} s`;
  const whole = Math.round(seconds);
  return `${Math.floor(whole / 60)} min ${String(whole % 60).padStart(2, '0')} s`;
}

export function bytes(count: number): string {
  if (count < 1000) return `${count} bytes`;
  if (count < 1e6) return `${(count / 1e3).toFixed(0)} kB`;
  return `${(count / 1e6).toFixed(1)} MB`;
}

const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];

/** 24 Nov (UTC). */
export function utcDay(iso: string): string {
  const time = new Date(iso);
  return `${time.getUTCDate()} ${MONTHS[time.getUTCMonth()]}`;
}

/** 24 Nov 14:32 (UTC, as logs are kept). @param iso time as ISO 8601 */
export const utc = (iso: string): string => `${utcDay(iso)} ${utcTime(iso)}`;

/** 14:32. */
export const utcTime = (iso: string): string => iso.slice(11, 16);
