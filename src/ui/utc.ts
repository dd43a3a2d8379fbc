/** Times as logs are kept: UTC. */

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
