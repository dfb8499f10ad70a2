import { NextResponse, type NextRequest } from 'next/server';

/**
 * Puts a content security policy with a nonce of its own on every page. API answers carry theirs where they
 * are made; they are left out here for another reason too: a proxied upload would be cut at 10 MB.
 */
export function proxy(request: NextRequest): NextResponse {
  const nonce = btoa(crypto.randomUUID());
  // From source, the development server evaluates code to point at the right line.
  const evaluation = process.env.NODE_ENV === 'production' ? "'wasm-unsafe-eval'" : "'unsafe-eval'";
  const policy = [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}' 'strict-dynamic' ${evaluation}`,
    // Components place and size things by style attributes and style elements; no content of ours holds markup.
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' blob: data:",
    "font-src 'self'",
    "worker-src 'self' blob:",
    "connect-src 'self'",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join('; ');
  const headers = new Headers(request.headers);
  headers.set('x-nonce', nonce);
  // What was asked for, query and all: signing in comes back to it. A page knows its own path, the room around it does not.
  headers.set('x-asked-for', `${request.nextUrl.pathname}${request.nextUrl.search}`);
  headers.set('content-security-policy', policy);
  const response = NextResponse.next({ request: { headers } });
  response.headers.set('content-security-policy', policy);
  response.headers.set('referrer-policy', 'same-origin');
  response.headers.set('x-content-type-options', 'nosniff');
  return response;
}

/** Every page; nothing that is a file or an answer to a program. */
export const config = {
  matcher: [{ source: '/((?!api|_next/static|_next/image|pdfjs|icon.svg).*)' }],
};
