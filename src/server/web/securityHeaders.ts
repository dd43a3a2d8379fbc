/** What every answer tells the browser to keep to. Directives: Content Security Policy Level 3 (W3C). */

/** For pages: only scripts and styles that carry this answer's nonce, and what those load. */
export const pagePolicy = (nonce: string): string =>
  policy({
    'default-src': "'none'",
    // The signal processing kernel is WebAssembly.
    'script-src': `'nonce-${nonce}' 'strict-dynamic' 'wasm-unsafe-eval'`,
    'style-src-elem': `'self' 'nonce-${nonce}'`,
    // Places of marks and charts are style attributes; they can load nothing that img-src does not allow.
    'style-src-attr': "'unsafe-inline'",
    'img-src': "'self' data: blob:",
    'media-src': "'self' blob:",
    'font-src': "'self'",
    'connect-src': "'self'",
    'worker-src': "'self'",
    'manifest-src': "'self'",
    'form-action': "'self'",
    'base-uri': "'none'",
    'frame-ancestors': "'none'",
  });

/** For files of the build: a worker keeps to the policy that its own script came with. */
const FILE_POLICY = policy({
  'default-src': "'none'",
  'script-src': "'self' 'wasm-unsafe-eval'",
  'connect-src': "'self'",
  'frame-ancestors': "'none'",
});

const COMMON = {
  'x-content-type-options': 'nosniff',
  'referrer-policy': 'same-origin',
  'cross-origin-resource-policy': 'same-origin',
  'cross-origin-opener-policy': 'same-origin',
  'permissions-policy': 'microphone=(self), camera=(), geolocation=(), usb=(), payment=()',
};

export const securityHeaders = (url: string, nonce: string): Readonly<Record<string, string>> => ({
  ...COMMON,
  'content-security-policy': url.startsWith('/_next/static/') ? FILE_POLICY : pagePolicy(nonce),
});

function policy(directives: Readonly<Record<string, string>>): string {
  return Object.entries(directives)
    .map(([name, value]) => `${name} ${value}`)
    .join('; ');
}
