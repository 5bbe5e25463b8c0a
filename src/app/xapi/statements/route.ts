import { randomUUID } from 'node:crypto';
import { writeMultipart, type Part } from '@/core/formats/multipart';
import { checkAttachments } from '@/server/xapi/attachments';
import { checkStatements, receiveStatements } from '@/server/xapi/endpoint';
import { findStatements, readFilters, statementById, withBytes } from '@/server/xapi/query';
import { StatementConflict } from '@/server/xapi/store';
import { resource, tagged, type Asked } from '../speak';
import { statementBody } from '../statementBody';

export const dynamic = 'force-dynamic';

/** Stores one statement or several; answers with their ids in order. */
async function post(asked: Asked) {
  if (asked.query.size > 0) throw new StatementConflict(400, 'POST takes no parameters.');
  const { json, bytes } = await statementBody(asked);
  const list = checkStatements(json, asked.version);
  await checkAttachments(list, bytes);
  return Response.json(await receiveStatements(asked.sender, list, asked.version, bytes));
}

/** Stores one statement under the id of the address. */
async function put(asked: Asked) {
  const id = asked.query.get('statementId');
  if (!id || asked.query.size !== 1)
    throw new StatementConflict(400, 'PUT takes statementId and nothing else.');
  const { json, bytes } = await statementBody(asked);
  if (Array.isArray(json)) throw new StatementConflict(400, 'PUT takes one statement.');
  const [statement] = checkStatements(json, asked.version);
  if (statement!.id && statement!.id.toLowerCase() !== id.toLowerCase())
    throw new StatementConflict(400, 'The id of the statement is not that of the address.');
  const list = checkStatements({ ...statement, id }, asked.version);
  await checkAttachments(list, bytes);
  await receiveStatements(asked.sender, list, asked.version, bytes);
  return new Response(null, { status: 204 });
}

/** One statement by id, or a page of those that match; with the bytes of their attachments if asked for. */
async function get(asked: Asked) {
  const { courseId } = asked.sender;
  const filters = readFilters(asked.query);
  const id = filters.statementId ?? filters.voidedStatementId;
  const through = { 'x-experience-api-consistent-through': new Date().toISOString() };
  if (id) {
    const found = await statementById(courseId, id, filters.voidedStatementId != null);
    if (!found)
      return Response.json({ message: 'There is no such statement.' }, { status: 404, headers: through });
    const headers = { ...through, 'last-modified': found.stored.toUTCString() };
    if (filters.attachments !== 'true') return tagged(asked, found.statement, headers);
    const { bytes } = await withBytes(courseId, [found]);
    return mixed(found.statement, [found.statement], bytes, headers);
  }
  const page = await findStatements(courseId, filters);
  const body = { statements: page.statements, more: page.more };
  if (!page.bytes) return tagged(asked, body, through);
  return mixed(body, page.statements, page.bytes, through);
}

/** Statements, and the bytes of their attachments, as multipart/mixed (part three, 1.5.2). */
function mixed(
  body: unknown,
  list: readonly unknown[],
  bytes: ReadonlyMap<string, Uint8Array>,
  headers: Record<string, string>,
): Response {
  const types = new Map(list.flatMap(typesIn));
  const boundary = `lantern-${randomUUID()}`;
  const parts: Part[] = [
    {
      headers: new Map([['Content-Type', 'application/json']]),
      content: new TextEncoder().encode(JSON.stringify(body)),
    },
    ...[...bytes].map(([sha2, content]) => ({
      headers: new Map([
        ['Content-Type', types.get(sha2) ?? 'application/octet-stream'],
        ['Content-Transfer-Encoding', 'binary'],
        ['X-Experience-API-Hash', sha2],
      ]),
      content,
    })),
  ];
  return new Response(Buffer.from(writeMultipart(parts, boundary)), {
    headers: { 'content-type': `multipart/mixed; boundary=${boundary}`, ...headers },
  });
}

/** The content types of the attachments anywhere in a stored statement, by hash. */
function typesIn(statement: unknown): [string, string][] {
  if (typeof statement !== 'object' || statement === null) return [];
  const own = 'attachments' in statement && Array.isArray(statement.attachments) ? statement.attachments : [];
  const found = own.flatMap((a: unknown): [string, string][] =>
    typeof a === 'object' && a !== null && 'sha2' in a && 'contentType' in a
      ? [[String(a.sha2).toLowerCase(), String(a.contentType)]]
      : [],
  );
  return 'object' in statement ? [...found, ...typesIn(statement.object)] : found;
}

export const { GET, PUT, POST, DELETE, HEAD, PATCH, OPTIONS } = resource({ GET: get, PUT: put, POST: post });
