import * as yup from 'yup';
import type { SpokenVersion } from '@/core/formats/xapi/statement';
import { peerOf } from '@/server/base/peer';
import { UseCaseError } from '@/server/base/errors';
import { reportFailure } from '@/server/base/failure';
import { senderOf, type Sender } from '@/server/xapi/credentials';
import { etagOf, namesTag } from '@/server/xapi/documents';
import { mayCall, mayFail } from '@/server/xapi/rate';
import { StatementConflict } from '@/server/xapi/store';
import { STATUS } from '../api/answer';
import { BODY_LIMITS, readBody } from '../body';
import { alternateRequest, isAlternate } from './alternate';
import { crossOrigin, preflight } from './cors';

/** Versions that we speak; the first is said where none was asked for. */
export const VERSIONS: readonly [SpokenVersion, SpokenVersion] = ['1.0.3', '2.0.0'];

/** A request of somebody who holds a key. */
export interface Asked {
  readonly sender: Sender;
  readonly version: SpokenVersion;
  readonly query: URLSearchParams;
  readonly header: (name: string) => string | null;
  /** The body, within the limit of the door. */
  readonly body: () => Promise<Uint8Array>;
}

type Method = 'GET' | 'PUT' | 'POST' | 'DELETE';
type Handlers = { readonly [M in Method]?: (asked: Asked) => Promise<Response> };
type Route = (request: Request) => Promise<Response>;

/** The version to answer in; null if the one asked for is none of ours (part three, 3.2). */
function versionOf(request: Request): SpokenVersion | null {
  const asked = request.headers.get('x-experience-api-version');
  if (asked && /^1\.0(\.\d+)?$/.test(asked)) return '1.0.3';
  return asked === '2.0.0' ? asked : null;
}

const refusal = (status: number, message: string, more: Record<string, string> = {}) =>
  Response.json({ message }, { status, headers: more });

const keyIn = (authorization: string) =>
  Buffer.from(authorization.replace(/^Basic /i, ''), 'base64')
    .toString('utf8')
    .split(':')[0]!
    .slice(0, 100);

/** What went wrong, as an answer. */
function refused(error: unknown): Response {
  if (error instanceof StatementConflict) return refusal(error.status, error.message);
  if (error instanceof UseCaseError) return refusal(STATUS[error.refusal], error.message);
  if (error instanceof yup.ValidationError) return refusal(400, error.message);
  const said = reportFailure('statements request', error);
  return refusal(said ? 507 : 500, said ?? 'Something went wrong here; nothing was stored.');
}

/** Finds out whose request it is, and answers it: version, key and rate are checked first. */
async function answer(request: Request, handlers: Handlers): Promise<Response> {
  let limit: number = BODY_LIMITS.statements;
  let meant = request;
  if (isAlternate(request)) {
    // Nobody's form is held whole before it is known whose it is.
    const known = (await senderOf(request.headers.get('authorization'))) != null;
    limit = known ? BODY_LIMITS.statements : BODY_LIMITS.keyedForm;
    meant = alternateRequest(request, await readBody(request, limit));
  }
  const version = versionOf(meant);
  if (!version) {
    const said = meant.headers.get('x-experience-api-version')?.slice(0, 40) ?? 'nothing';
    return refusal(400, `Say X-Experience-API-Version: ${VERSIONS.join(' or ')}; ${said} was said.`);
  }
  const authorization = meant.headers.get('authorization');
  const sender = await senderOf(authorization);
  if (!sender) {
    if (authorization && !mayFail(keyIn(authorization), peerOf(request.headers)))
      return refusal(429, 'Too many wrong secrets; wait a minute.', { 'retry-after': '60' });
    return refusal(401, 'Send a key and its secret by Basic authentication.', {
      'www-authenticate': 'Basic realm="statements", charset="UTF-8"',
    });
  }
  if (!mayCall(sender.key))
    return refusal(429, 'Too many requests; send more statements in each.', { 'retry-after': '1' });
  const method = meant.method === 'HEAD' ? 'GET' : meant.method;
  const handle = handlers[method as Method];
  if (!handle)
    return refusal(405, `${method} is not for this resource.`, { allow: Object.keys(handlers).join(', ') });
  return handle({
    sender,
    version,
    query: new URL(meant.url).searchParams,
    header: (name) => meant.headers.get(name),
    body: () => readBody(meant, limit),
  });
}

/** Answers every request in JSON, in the version that was asked for, to whatever origin may ask. */
export async function inJson(request: Request, task: () => Response | Promise<Response>): Promise<Response> {
  const response = await Promise.resolve().then(task).catch(refused);
  const { headers } = response;
  if (!headers.has('x-experience-api-version'))
    headers.set('x-experience-api-version', versionOf(request) ?? VERSIONS[0]);
  headers.set('cache-control', 'no-store');
  // What clients keep here is shown to no browser as a page.
  headers.set('content-security-policy', "sandbox; default-src 'none'");
  for (const [name, value] of Object.entries(crossOrigin(request))) headers.set(name, value);
  return request.method === 'HEAD' ? new Response(null, response) : response;
}

/** The route handlers of a resource: each method that it has, and a word in JSON for those that it has not. */
export function resource(handlers: Handlers): Record<Method | 'HEAD' | 'PATCH' | 'OPTIONS', Route> {
  const route: Route = (request) => inJson(request, () => answer(request, handlers));
  const methods = [...Object.keys(handlers), 'HEAD', 'OPTIONS'];
  const OPTIONS: Route = (request) => inJson(request, () => preflight(request, methods));
  return { GET: route, PUT: route, POST: route, DELETE: route, HEAD: route, PATCH: route, OPTIONS };
}

/** A body with its entity tag, or 304 where the client holds it already. */
export function tagged(asked: Asked, body: unknown, headers: Record<string, string>): Response {
  const text = JSON.stringify(body);
  const etag = etagOf(text);
  const held = asked.header('if-none-match');
  if (held && namesTag(held, etag)) return new Response(null, { status: 304, headers: { etag } });
  return new Response(text, { headers: { 'content-type': 'application/json', etag, ...headers } });
}
