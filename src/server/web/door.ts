/**
 * Who may come in. The app listens on loopback, but every page in the operator's browser can reach loopback too, also
 * under a name of its own that it points there ("DNS rebinding"). What is let in: our own names, our own pages, and
 * programs that are no browser.
 */

export interface Doors {
  readonly port: number;
  /** Further names that lead here, as of a tunnel: "shack.example" or "shack.example:8443". */
  readonly hosts: readonly string[];
}

/** A request as it stands at the door: header names in lower case. */
export interface Knock {
  readonly method: string;
  /** Path and query. */
  readonly url: string;
  readonly headers: Readonly<Record<string, string | readonly string[] | undefined>>;
}

export interface Refusal {
  readonly status: number;
  readonly message: string;
}

const OWN_NAMES = ['127.0.0.1', 'localhost', '[::1]'];
const METHODS = ['GET', 'HEAD', 'POST'];

/** Names of DIALTUNE_HOSTS: separated by commas or spaces. */
export const hostsOf = (text = ''): string[] =>
  text
    .toLowerCase()
    .split(/[\s,]+/)
    .filter(Boolean);

/** Why a request is not let in; null when it is. */
export function refusalAtDoor({ method, url, headers }: Knock, doors: Doors): Refusal | null {
  const host = one(headers.host)?.toLowerCase();
  if (host === undefined || !isOwnHost(host, doors)) {
    return { status: 421, message: 'Dial Tune does not answer to this name. Open it at 127.0.0.1, or list the name in DIALTUNE_HOSTS.' };
  }
  if (!METHODS.includes(method)) return { status: 405, message: `The method ${method} is not used here.` };
  if (!url.startsWith('/')) return { status: 400, message: 'This is no address of a page.' };
  const isForeign = { status: 403, message: 'This request comes from a page of another origin. Nothing was read or changed.' };
  const origin = one(headers.origin);
  if (origin !== undefined && hostOf(origin) !== host) return isForeign;
  const site = one(headers['sec-fetch-site']);
  if (site === undefined || site === 'same-origin' || site === 'none') return null;
  return isLinkToPage(method, url, headers) ? null : isForeign;
}

/** A link to a page, followed by the person: the page that has the link learns nothing from it. */
const isLinkToPage = (method: string, url: string, headers: Knock['headers']): boolean =>
  method !== 'POST' &&
  headers['sec-fetch-mode'] === 'navigate' &&
  headers['sec-fetch-dest'] === 'document' &&
  !/^\/+api(?:\/|$|\?)/i.test(url);

const one = (value: Knock['headers'][string]): string | undefined => (typeof value === 'string' ? value : value?.join(','));

function isOwnHost(host: string, { port, hosts }: Doors): boolean {
  const withPort = (name: string) => [`${name}:${port}`, ...(port === 80 ? [name] : [])];
  // A name given without a port leads here by our own port, or by a proxy's usual one.
  const given = hosts.flatMap((name) => (/:\d+$/.test(name) ? [name] : [name, `${name}:${port}`]));
  return [...OWN_NAMES.flatMap(withPort), ...given].includes(host);
}

/** Host and port of an origin; undefined for "null" and whatever is none. */
function hostOf(origin: string): string | undefined {
  return /^https?:\/\/([^/]+)$/.exec(origin.toLowerCase())?.[1];
}
