import { StatementConflict } from '@/server/xapi/store';

/** Headers that a form may carry instead of the request (xAPI 1.0.3, part three, 1.3). */
const HEADERS = [
  'authorization',
  'x-experience-api-version',
  'content-type',
  'if-match',
  'if-none-match',
  'accept-language',
];
const METHODS = ['GET', 'PUT', 'POST', 'DELETE', 'HEAD'];

/** Whether a request is of the kind that `alternateRequest` reads. */
export const isAlternate = (request: Request): boolean =>
  request.method === 'POST' && new URL(request.url).searchParams.has('method');

/**
 * The request that a client means which can send nothing but POST: the method stands in the address, parameters,
 * headers and content in a form (xAPI 1.0.3, part three, 1.3, “alternate request syntax”; IEEE 9274.1.1 has left it
 * out).
 */
export function alternateRequest(request: Request, body: Uint8Array): Request {
  const url = new URL(request.url);
  const method = url.searchParams.get('method')?.toUpperCase() ?? '';
  if (!METHODS.includes(method))
    throw new StatementConflict(400, `There is no method ${method.slice(0, 20)} here.`);
  if ([...url.searchParams.keys()].length > 1)
    throw new StatementConflict(400, 'Parameters stand in the form, beside the method in the address.');
  if (!/^application\/x-www-form-urlencoded\b/i.test(request.headers.get('content-type') ?? ''))
    throw new StatementConflict(400, 'With a method in the address the body is a form.');
  const headers = new Headers(request.headers);
  headers.delete('content-length');
  headers.delete('content-type');
  const target = new URL(url.pathname, url);
  let content: string | undefined;
  for (const [name, value] of new URLSearchParams(new TextDecoder().decode(body))) {
    if (name === 'content') content = value;
    else if (HEADERS.includes(name.toLowerCase())) {
      // What no header can hold is no header.
      if (!/^[\x20-\x7e]*$/.test(value)) throw new StatementConflict(400, `${name} is no header.`);
      headers.set(name, value);
    } else if (target.searchParams.has(name)) throw new StatementConflict(400, `${name} is given twice.`);
    else target.searchParams.set(name, value);
  }
  const holds = method === 'PUT' || method === 'POST';
  if (holds && !headers.has('content-type')) headers.set('content-type', 'application/json');
  return new Request(target, { method, headers, body: holds ? (content ?? '') : undefined });
}
