import { createHash } from 'node:crypto';
import * as yup from 'yup';
import { UseCaseError } from '@/server/errors';
import { reportFailure } from '@/server/failure';
import { senderOf, type Sender } from '@/server/xapi/credentials';
import { STATEMENT_LIMITS } from '@/server/xapi/endpoint';
import { mayCall, mayFail } from '@/server/xapi/rate';
import { StatementConflict } from '@/server/xapi/store';

/** Versions that we speak; the first is said where none was asked for. */
export const VERSIONS = ['1.0.3', '2.0.0'] as const;

/** The version to answer in; null if the one asked for is none of ours (part three, 3.2). */
function versionOf(request: Request): string | null {
  const asked = request.headers.get('x-experience-api-version');
  if (asked && /^1\.0(\.\d+)?$/.test(asked)) return '1.0.3';
  return asked === '2.0.0' ? asked : null;
}

const refusal = (status: number, message: string, version: string, more: Record<string, string> = {}) =>
  Response.json({ message }, { status, headers: { 'x-experience-api-version': version, ...more } });

const keyIn = (authorization: string) =>
  Buffer.from(authorization.replace(/^Basic /i, ''), 'base64')
    .toString('utf8')
    .split(':')[0]!
    .slice(0, 100);

/**
 * Runs a handler of the statements endpoint for whoever holds a key: version header, key and rate are checked, and
 * refusals become their status with the reason.
 */
export async function speak(
  request: Request,
  handle: (sender: Sender) => Promise<Response>,
): Promise<Response> {
  const version = versionOf(request);
  if (!version)
    return refusal(
      400,
      `Say X-Experience-API-Version: ${VERSIONS.join(' or ')}; ${request.headers.get('x-experience-api-version') ?? 'nothing'} was said.`,
      VERSIONS[0],
    );
  try {
    const authorization = request.headers.get('authorization');
    const sender = await senderOf(authorization);
    if (!sender) {
      if (authorization && !mayFail(keyIn(authorization)))
        return refusal(429, 'Too many wrong secrets; wait a minute.', version, { 'retry-after': '60' });
      return refusal(401, 'Send a key and its secret by Basic authentication.', version, {
        'www-authenticate': 'Basic realm="statements", charset="UTF-8"',
      });
    }
    if (!mayCall(sender.key))
      return refusal(429, 'Too many requests; send more statements in each.', version, {
        'retry-after': '1',
      });
    const response = await handle(sender);
    response.headers.set('x-experience-api-version', version);
    response.headers.set('cache-control', 'no-store');
    return response;
  } catch (error) {
    return refused(error, version);
  }
}

/** What went wrong, as an answer. */
export function refused(error: unknown, version: string): Response {
  if (error instanceof StatementConflict) return refusal(error.status, error.message, version);
  if (error instanceof UseCaseError)
    return refusal(error.refusal === 'not found' ? 404 : 400, error.message, version);
  if (error instanceof yup.ValidationError) return refusal(400, error.message, version);
  const said = reportFailure('statements request', error);
  return refusal(said ? 507 : 500, said ?? 'Something went wrong here; nothing was stored.', version);
}

/** The JSON of a request's body, within the limits. Throws what is wrong with it. */
export async function jsonBody(request: Request): Promise<unknown> {
  const type = request.headers.get('content-type') ?? '';
  if (/^multipart\/mixed/i.test(type))
    throw new StatementConflict(
      400,
      'Attachments with their bytes, and signed statements, are not taken; send application/json.',
    );
  if (!/^application\/json\b/i.test(type))
    throw new StatementConflict(400, `Send application/json, not ${type || 'nothing'}.`);
  const chunks: Uint8Array[] = [];
  let size = 0;
  const reader = request.body?.getReader();
  for (;;) {
    const part = await reader?.read();
    if (!part || part.done) break;
    size += part.value.length;
    if (size > STATEMENT_LIMITS.bytes) {
      await reader?.cancel();
      throw new StatementConflict(400, 'The request is larger than 8 MB; send fewer statements at once.');
    }
    chunks.push(part.value);
  }
  try {
    return JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(Buffer.concat(chunks)));
  } catch {
    throw new StatementConflict(400, 'The body is not JSON in UTF-8.');
  }
}

/** A body with its entity tag, or 304 where the client holds it already. */
export function tagged(request: Request, body: unknown, headers: Record<string, string>): Response {
  const text = JSON.stringify(body);
  const tag = `"${createHash('sha1').update(text).digest('hex')}"`;
  const held = request.headers.get('if-none-match');
  if (held?.split(',').some((t) => t.trim() === tag))
    return new Response(null, { status: 304, headers: { etag: tag } });
  return new Response(text, { headers: { 'content-type': 'application/json', etag: tag, ...headers } });
}
