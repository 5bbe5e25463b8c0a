import { createHash } from 'node:crypto';
import { and, eq, inArray, sql } from 'drizzle-orm';
import * as yup from 'yup';
import type { Part } from '@/core/formats/multipart';
import type { Attachment, Statement } from '@/core/formats/xapi/statement';
import type { Access } from '@/data/database';
import { attachments, statementAttachments } from '@/data/schema';
import { invalid } from '../base/errors';
import { SIGNATURE, signatureFault } from './signature';

/** The member of the SHA-2 family that makes a hash of so many hexadecimal digits (FIPS 180-4). */
const BY_DIGITS: Readonly<Record<number, string>> = {
  56: 'sha224',
  64: 'sha256',
  96: 'sha384',
  128: 'sha512',
};

/** Bytes by their hash, as they came beside statements. */
export type Bytes = ReadonlyMap<string, Uint8Array>;

/** What attachments a request brings that bring none. */
export const NO_BYTES: Bytes = new Map();

/** The attachments of a statement and of the statement inside of it. */
export function attachmentsIn(statement: Statement): readonly Attachment[] {
  const inner =
    statement.object.objectType === 'SubStatement' ? (statement.object as unknown as Statement) : null;
  return [...(statement.attachments ?? []), ...(inner?.attachments ?? [])];
}

/** The parts behind the first of a request as bytes by their hash, which is checked. Throws what is wrong with one. */
export function bytesOfParts(parts: readonly Part[]): Bytes {
  const found = new Map<string, Uint8Array>();
  for (const [i, { headers, content }] of parts.entries()) {
    const where = `Part ${i + 2}`;
    const hash = headers.get('x-experience-api-hash')?.toLowerCase() ?? '';
    if (hash === '') throw invalid(`${where} has no X-Experience-API-Hash.`);
    if (headers.get('content-transfer-encoding')?.toLowerCase() !== 'binary')
      throw invalid(`${where} needs Content-Transfer-Encoding: binary.`);
    const family = BY_DIGITS[hash.length];
    if (!family || createHash(family).update(content).digest('hex') !== hash)
      throw invalid(`${where} is not what its X-Experience-API-Hash says, as SHA-2.`);
    found.set(hash, content);
  }
  return found;
}

/**
 * Checks that what statements say of attachments and what came beside them agree: bytes for each that names no address, of
 * the length said; none that nobody names; signatures that hold. Throws the first fault.
 */
export async function checkAttachments(list: readonly Statement[], bytes: Bytes): Promise<void> {
  const named = new Set<string>();
  for (const [i, statement] of list.entries()) {
    const where = list.length > 1 ? `Statement ${i + 1}: ` : '';
    for (const attachment of attachmentsIn(statement)) {
      const sha2 = attachment.sha2.toLowerCase();
      named.add(sha2);
      const content = bytes.get(sha2);
      if (!content && !attachment.fileUrl)
        throw invalid(`${where}the bytes of an attachment did not come with it, and it has no fileUrl.`);
      if (content && content.length !== attachment.length)
        throw invalid(`${where}an attachment has ${content.length} bytes, and says ${attachment.length}.`);
      if (attachment.usageType !== SIGNATURE || !content) continue;
      if (attachment.contentType !== 'application/octet-stream')
        throw invalid(`${where}a signature has the contentType application/octet-stream.`);
      const fault = await signatureFault(statement, content);
      if (fault) throw invalid(`${where}${fault}.`);
    }
  }
  for (const hash of bytes.keys())
    if (!named.has(hash)) throw invalid(`No statement names the attachment ${hash.slice(0, 12)}….`);
}

/** Keeps the bytes that stored statements name, once each. */
export async function keepAttachments(
  { orm }: Access,
  courseId: number,
  stored: readonly (Statement & { readonly id: string })[],
  bytes: Bytes,
): Promise<void> {
  if (bytes.size === 0) return;
  const links = stored.flatMap((statement) =>
    [...new Set(attachmentsIn(statement).map((a) => a.sha2.toLowerCase()))]
      .filter((sha2) => bytes.has(sha2))
      .map((sha2) => ({ courseId, statementId: statement.id, sha2 })),
  );
  if (links.length === 0) return;
  for (const sha2 of new Set(links.map((l) => l.sha2)))
    await orm
      .insert(attachments)
      .values({ courseId, sha2, content: bytes.get(sha2)! })
      .onConflictDoNothing();
  await orm.insert(statementAttachments).values(links).onConflictDoNothing();
}

/** Lets bytes go that no statement of a course names any more. Called where statements were taken out. */
export async function sweepAttachments({ orm }: Access, courseId: number): Promise<void> {
  await orm.delete(attachments).where(
    and(
      eq(attachments.courseId, courseId),
      sql`not exists (select 1 from ${statementAttachments} as s
        where s.course_id = ${attachments.courseId} and s.sha2 = ${attachments.sha2})`,
    ),
  );
}

const sizeSchema = yup.number().integer().required();

/** How many bytes of attachments belong to each statement of a page; one that has none is left out. */
export async function attachmentSizes(
  { orm }: Access,
  courseId: number,
  ids: readonly string[],
): Promise<Map<string, Map<string, number>>> {
  const found = new Map<string, Map<string, number>>();
  if (ids.length === 0) return found;
  const rows = await orm
    .select({
      id: statementAttachments.statementId,
      sha2: attachments.sha2,
      size: sql`octet_length(${attachments.content})`,
    })
    .from(statementAttachments)
    .innerJoin(
      attachments,
      and(
        eq(attachments.courseId, statementAttachments.courseId),
        eq(attachments.sha2, statementAttachments.sha2),
      ),
    )
    .where(
      and(eq(statementAttachments.courseId, courseId), inArray(statementAttachments.statementId, [...ids])),
    );
  for (const { id, sha2, size } of rows) {
    const own = found.get(id) ?? new Map<string, number>();
    found.set(id, own.set(sha2, sizeSchema.validateSync(size)));
  }
  return found;
}

/** The bytes of attachments of a course. */
export async function attachmentBytes(
  { orm }: Access,
  courseId: number,
  hashes: readonly string[],
): Promise<Map<string, Uint8Array>> {
  if (hashes.length === 0) return new Map();
  const rows = await orm
    .select({ sha2: attachments.sha2, content: attachments.content })
    .from(attachments)
    .where(and(eq(attachments.courseId, courseId), inArray(attachments.sha2, [...hashes])));
  return new Map(rows.map((r) => [r.sha2, r.content]));
}
