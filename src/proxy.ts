import { NextResponse, type NextRequest } from 'next/server';
import { isActionBody } from './core/formats/actionBody';

/** Bytes that the call of an action may have; see next.config.ts, which passes on a little more. */
const MOST = 1024 * 1024;

const no = (status: number, words: string) =>
  new NextResponse(words, { status, headers: { 'content-type': 'text/plain; charset=utf-8' } });

/** Why a call of an action is not handed on; null if it is, and for anything else than such a call. */
async function refusal(request: NextRequest): Promise<NextResponse | null> {
  if (request.method !== 'POST' || !request.headers.has('next-action')) return null;
  // A page of another site means nothing by it; the framework would fail.
  const origin = request.headers.get('origin');
  const host = request.headers.get('x-forwarded-host') ?? request.headers.get('host');
  if (origin != null && !(URL.canParse(origin) && new URL(origin).host === host))
    return no(403, 'Sent from another site.');
  const text = await request.text();
  if (text.length > MOST) return no(413, 'This is too much at once.');
  return isActionBody(text) ? null : no(400, 'This is nothing that a page here sends.');
}

/** Gives every page its content security policy, with a fresh nonce for the scripts that the framework writes. */
export async function proxy(request: NextRequest) {
  const refused = await refusal(request);
  if (refused) return refused;
  const nonce = btoa(crypto.randomUUID());
  const development = process.env.NODE_ENV === 'development';
  const policy = [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}' 'strict-dynamic'${development ? " 'unsafe-eval'" : ''}`,
    // Charts and floating panels place themselves by style attributes.
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data:",
    "font-src 'self'",
    "connect-src 'self'",
    "object-src 'none'",
    "base-uri 'self'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join('; ');
  const headers = new Headers(request.headers);
  headers.set('x-nonce', nonce);
  headers.set('content-security-policy', policy);
  const response = NextResponse.next({ request: { headers } });
  response.headers.set('content-security-policy', policy);
  return response;
}

export const config = {
  matcher: [{ source: '/((?!api|xapi|_next/static|_next/image|icon.svg|favicon.ico).*)' }],
};
