/** The card being worked on, remembered from page to page in a cookie that the server reads too. */

const NAME = 'dialtune-card';
const KEPT_SECONDS = 400 * 86_400;

export function rememberCard(id: number): void {
  // biome-ignore lint/suspicious/noDocumentCookie: the Cookie Store is not everywhere yet
  document.cookie = `${NAME}=${id}; path=/; max-age=${KEPT_SECONDS}; samesite=lax`;
}

export function rememberedCard(): number | undefined {
  const found = new RegExp(`(?:^|; )${NAME}=(\\d{1,9})(?:;|$)`).exec(document.cookie)?.[1];
  return found === undefined ? undefined : Number(found);
}
