import { StatementConflict } from '@/server/xapi/store';
import { STATEMENT_LIMITS } from '@/server/xapi/endpoint';

/** Headers that a form may carry instead of the request (xAPI 1.0.3, part three, 1.3). */
const HEADERS = [
  'authorization',
  'x-experience-api-version',
  'content-type',
  'if-match',
  'if-none-match',
  'accept-language',
];

/**
 * The request that a client means which can send nothing but POST: the method stands in the address, parameters,
 * headers and content in a form (xAPI 1.0.3, part three, 1.3, “alternate request syntax”; IEEE 9274.1.1 has left it
 * out). Null for a plain request.
 */
export async function alternateRequest(request: Request): Promise<Request | null> {
  const url = new URL(request.url);
  const method = url.searchParams.get('method')?.toUpperCase();
  if (!method) return null;
  if (!['GET', 'PUT', 'POST'].includes(method))
    throw new StatementConflict(400, `There is no method ${method.slice(0, 20)} here.`);
  if ([...url.searchParams.keys()].length > 1)
    throw new StatementConflict(400, 'Parameters stand in the form, beside the method in the address.');
  if (Number(request.headers.get('content-length') ?? 0) > STATEMENT_LIMITS.bytes * 2)
    throw new StatementConflict(400, 'The request is larger than 8 MB; send fewer statements at once.');
  const form = await request.formData().catch(() => {
    throw new StatementConflict(400, 'With a method in the address the body is a form.');
  });
  const headers = new Headers(request.headers);
  headers.set('content-type', 'application/json');
  const target = new URL(url.pathname, url);
  let content: string | undefined;
  for (const [name, value] of form) {
    if (typeof value !== 'string') throw new StatementConflict(400, 'The form takes no files.');
    if (name === 'content') content = value;
    else if (HEADERS.includes(name.toLowerCase())) headers.set(name, value);
    else target.searchParams.set(name, value);
  }
  headers.delete('content-length');
  return new Request(target, { method, headers, body: method === 'GET' ? undefined : (content ?? '') });
}
