import { boundaryOf, readMultipart, type Part } from '@/core/formats/multipart';
import { parseJson } from '@/core/formats/json';
import { bytesOfParts, NO_BYTES, type Bytes } from '@/server/xapi/attachments';
import { StatementConflict } from '@/server/xapi/store';
import type { Asked } from './speak';

const isJson = (type: string): boolean => /^application\/json\s*(;|$)/i.test(type);

/** The JSON of a body in UTF-8. Throws what is wrong with it. */
function jsonOf(bytes: Uint8Array): unknown {
  let text: string;
  try {
    text = new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    throw new StatementConflict(400, 'The body is not JSON in UTF-8.');
  }
  const read = parseJson(text);
  if (read.ok) return read.value;
  throw new StatementConflict(400, `The body ${read.reason}.`);
}

/**
 * What a request brings: statements as JSON, or, as multipart/mixed, the statements in its first part and the bytes of
 * attachments behind (part three, 1.5). Throws what is wrong with it.
 */
export async function statementBody(asked: Asked): Promise<{ json: unknown; bytes: Bytes }> {
  const type = asked.header('content-type') ?? '';
  if (isJson(type)) return { json: jsonOf(await asked.body()), bytes: NO_BYTES };
  if (!/^multipart\/mixed\s*(;|$)/i.test(type))
    throw new StatementConflict(
      400,
      `Send application/json or multipart/mixed, not ${type.slice(0, 60) || 'nothing'}.`,
    );
  const boundary = boundaryOf(type);
  if (boundary == null) throw new StatementConflict(400, 'The content type names no boundary.');
  const read = readMultipart(await asked.body(), boundary);
  if (!read.ok) throw new StatementConflict(400, `The body ${read.reason}.`);
  const [first, ...rest]: readonly Part[] = read.value;
  if (!first || !isJson(first.headers.get('content-type') ?? ''))
    throw new StatementConflict(400, 'The first part holds the statements, as application/json.');
  return { json: jsonOf(first.content), bytes: bytesOfParts(rest) };
}
