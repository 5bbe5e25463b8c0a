import { config } from '@/server/base/config';

const ALLOWED = [
  'Authorization',
  'Content-Type',
  'Accept-Language',
  'If-Match',
  'If-None-Match',
  'X-Experience-API-Version',
  'X-Experience-API-Hash',
];
const TOLD = [
  'ETag',
  'Last-Modified',
  'X-Experience-API-Version',
  'X-Experience-API-Consistent-Through',
  'Retry-After',
  'WWW-Authenticate',
];

/**
 * The headers by which a page of another origin may read an answer (Fetch standard, 3.2 CORS protocol), if the settings
 * allow its origin. Never with cookies: a key is sent in each request.
 */
export function crossOrigin(request: Request): Record<string, string> {
  const { xapiOrigins } = config();
  if (xapiOrigins.length === 0) return {};
  const origin = request.headers.get('origin');
  const any = xapiOrigins.includes('*');
  if (!any && !(origin && xapiOrigins.includes(origin))) return { vary: 'Origin' };
  return {
    'access-control-allow-origin': any ? '*' : origin!,
    'access-control-expose-headers': TOLD.join(', '),
    vary: 'Origin',
  };
}

/** The answer to a browser that asks what it may send. */
export function preflight(request: Request, methods: readonly string[]): Response {
  const headers = crossOrigin(request);
  const allowed = 'access-control-allow-origin' in headers;
  return new Response(null, {
    status: 204,
    headers: {
      ...headers,
      allow: methods.join(', '),
      ...(allowed
        ? {
            'access-control-allow-methods': methods.join(', '),
            'access-control-allow-headers': ALLOWED.join(', '),
            'access-control-max-age': '600',
          }
        : {}),
    },
  });
}
