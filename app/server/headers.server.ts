import { randomBytes } from 'node:crypto';
import { settings } from '#settings';

/** A number that stands for "this script is ours" on one page (W3C CSP 3, 2.3.1). */
export const newNonce = (): string => randomBytes(16).toString('base64');

/**
 * What a page may load and run (W3C Content Security Policy 3): what comes from here or out of the store, and no script
 * that was not written by us. Styles may stand inline, as the parts for menus and messages need it: nothing they name can come from elsewhere.
 */
export const pagePolicy = (nonce: string): string => {
  const { BRIGHT_REEL_S3_BROWSERS: store } = settings();
  const files = store ? ` ${new URL(store).origin}` : '';
  return [
    "default-src 'none'",
    `script-src 'self' 'nonce-${nonce}' 'wasm-unsafe-eval'`,
    "style-src 'self' 'unsafe-inline'",
    `img-src 'self' blob: data:${files}`,
    `media-src 'self' blob:${files}`,
    "font-src 'self' data:",
    "connect-src 'self'",
    "worker-src 'self'",
    "form-action 'self'",
    "base-uri 'none'",
    "frame-ancestors 'none'",
  ].join('; ');
};

/** Of a file that is opened by itself: it may show itself. */
const filePolicy =
  "default-src 'none'; img-src 'self'; media-src 'self'; style-src 'unsafe-inline'; frame-ancestors 'none'";

const usual = {
  'Content-Security-Policy': filePolicy,
  'X-Content-Type-Options': 'nosniff',
  'Referrer-Policy': 'same-origin',
  'X-Frame-Options': 'DENY',
  'Cross-Origin-Opener-Policy': 'same-origin',
  'Cross-Origin-Resource-Policy': 'same-origin',
  'Permissions-Policy': 'camera=(), microphone=(), geolocation=()',
};

/** Says of every answer what a browser may do with it, where the answer does not say so itself. */
export function protect(answer: Response): Response {
  for (const [name, value] of Object.entries(usual)) if (!answer.headers.has(name)) answer.headers.set(name, value);
  return answer;
}
