/** Which page of a list an address asks for. */
export type Params = Promise<Record<string, string | string[] | undefined>>;

export const PAGE_SIZE = 25;

export function pageOf(text: string | string[] | undefined, total: number): { page: number; pages: number; offset: number } {
  const pages = Math.max(1, Math.ceil(total / PAGE_SIZE));
  const page = Math.min(pages, Math.max(1, typeof text === 'string' && /^\d{1,6}$/.test(text) ? Number(text) : 1));
  return { page, pages, offset: (page - 1) * PAGE_SIZE };
}

/** Words to look for; undefined when there are none. */
export const searchOf = (text: string | string[] | undefined): string | undefined =>
  typeof text === 'string' && text.trim() !== '' ? text.trim().slice(0, 100) : undefined;

/** A row's id in an address; undefined for anything else. */
export const idOf = (text: string | string[] | undefined): number | undefined =>
  typeof text === 'string' && /^\d{1,9}$/.test(text) ? Number(text) : undefined;
