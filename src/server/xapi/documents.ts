import { createHash } from 'node:crypto';
import { and, asc, eq, gt, type SQL } from 'drizzle-orm';
import * as yup from 'yup';
import { parseJson } from '@/core/formats/json';
import type { Instant } from '@/core/units';
import type { Access } from '@/data/database';
import { documents } from '@/data/schema';
import type { DocumentKind } from '@/data/schema/live';
import { nowDate } from '../base/clock';
import { database } from '../base/database';
import { StatementConflict } from './store';
import { underLock } from '@/data/write/underLock';

/** Where documents of one kind stand: what a kind does not go by is an empty text. */
export interface Shelf {
  readonly courseId: number;
  readonly kind: DocumentKind;
  readonly activity: string;
  readonly agent: string;
  /** Empty: any registration when asking for several, none when asking for one. */
  readonly registration: string;
}

export interface Document {
  readonly contentType: string;
  readonly content: Uint8Array;
}

export interface StoredDocument extends Document {
  readonly updated: Date;
  readonly etag: string;
}

/** What a request says of the document it means to change (RFC 9110, 13.1). */
export interface Preconditions {
  readonly ifMatch: string | null;
  readonly ifNoneMatch: string | null;
}

/** Documents on one shelf at most. */
const MOST_DOCUMENTS = 10_000;

export const etagOf = (content: Uint8Array | string): string =>
  `"${createHash('sha1').update(content).digest('hex')}"`;

/**
 * Whether a header of entity tags names a tag, or any (RFC 9110, 8.8.3.2: compared strongly). Some clients leave out the
 * quotes around the hash.
 */
export const namesTag = (header: string, etag: string): boolean =>
  header.trim() === '*' || header.split(',').some((tag) => [etag, etag.slice(1, -1)].includes(tag.trim()));

const keyOf = ({ kind, activity, agent, registration }: Shelf, id: string): string =>
  createHash('sha256')
    .update(JSON.stringify([kind, activity, agent, registration, id]))
    .digest('hex');

const at = (shelf: Shelf, id: string): SQL =>
  and(eq(documents.courseId, shelf.courseId), eq(documents.key, keyOf(shelf, id)))!;

const on = ({ courseId, kind, activity, agent, registration }: Shelf): SQL =>
  and(
    eq(documents.courseId, courseId),
    eq(documents.kind, kind),
    eq(documents.activity, activity),
    eq(documents.agent, agent),
    registration === '' ? undefined : eq(documents.registration, registration),
  )!;

async function read({ orm }: Pick<Access, 'orm'>, shelf: Shelf, id: string): Promise<StoredDocument | null> {
  const [row] = await orm.select().from(documents).where(at(shelf, id));
  return row ? { ...row, etag: etagOf(row.content) } : null;
}

/** One document; null if there is none. */
export const documentOf = async (shelf: Shelf, id: string): Promise<StoredDocument | null> =>
  read(await database(), shelf, id);

/** The ids of the documents on a shelf, changed after an instant if one is given. */
export async function documentIds(shelf: Shelf, since: Instant | null): Promise<string[]> {
  const { orm } = await database();
  const rows = await orm
    .selectDistinct({ id: documents.id })
    .from(documents)
    .where(and(on(shelf), since == null ? undefined : gt(documents.updated, new Date(since))))
    .orderBy(asc(documents.id))
    .limit(MOST_DOCUMENTS);
  return rows.map((r) => r.id);
}

/** Refuses what a precondition does not allow (RFC 9110, 13.1.1 and 13.1.2). */
function allow(stored: StoredDocument | null, { ifMatch, ifNoneMatch }: Preconditions): void {
  if (ifMatch != null && !(stored && namesTag(ifMatch, stored.etag)))
    throw new StatementConflict(412, 'The document is not the one that If-Match names.');
  if (ifNoneMatch != null && stored && namesTag(ifNoneMatch, stored.etag))
    throw new StatementConflict(412, 'The document is the one that If-None-Match names.');
}

const objectSchema = yup.object().required();

/** A document that is a record in JSON; null for any other. */
function recordIn({ contentType, content }: Document): Record<string, unknown> | null {
  if (!/^application\/json\b/i.test(contentType)) return null;
  const read = parseJson(new TextDecoder().decode(content));
  if (!read.ok || Array.isArray(read.value) || !objectSchema.isValidSync(read.value, { strict: true }))
    return null;
  return read.value;
}

/** The document that a posted one makes of what stands there: records in JSON are put together, name by name. */
function merged(stored: Document | null, posted: Document): Document {
  if (!stored) return posted;
  const [before, after] = [recordIn(stored), recordIn(posted)];
  if (!before) throw new StatementConflict(400, 'What is stored is no record in JSON; replace it by PUT.');
  if (!after) throw new StatementConflict(400, 'What is posted is no record in JSON.');
  return {
    contentType: 'application/json',
    content: new TextEncoder().encode(JSON.stringify({ ...before, ...after })),
  };
}

/**
 * Stores a document. A profile that is there is replaced only by who says which (part three, 3.1): a PUT without a
 * precondition is a conflict.
 */
export async function storeDocument(
  shelf: Shelf,
  id: string,
  sent: Document,
  how: 'PUT' | 'POST',
  conditions: Preconditions,
): Promise<void> {
  const db = await database();
  await underLock(db, shelf.courseId, async (tx) => {
    const stored = await read(tx, shelf, id);
    const unsaid = conditions.ifMatch == null && conditions.ifNoneMatch == null;
    if (how === 'PUT' && stored && unsaid && shelf.kind !== 'state')
      throw new StatementConflict(409, 'A document stands here; say which by If-Match, or If-None-Match: *.');
    allow(stored, conditions);
    if (how === 'POST' && !/^application\/json\b/i.test(sent.contentType) && stored)
      throw new StatementConflict(400, 'What is posted to a document is a record in JSON.');
    const document = how === 'POST' ? merged(stored, sent) : sent;
    const values = { ...shelf, id, key: keyOf(shelf, id), ...document, updated: nowDate() };
    await tx.orm
      .insert(documents)
      .values(values)
      .onConflictDoUpdate({
        target: [documents.courseId, documents.key],
        set: { contentType: values.contentType, content: values.content, updated: values.updated },
      });
  });
}

/** Takes one document away. */
export async function removeDocument(shelf: Shelf, id: string, conditions: Preconditions): Promise<void> {
  const db = await database();
  await underLock(db, shelf.courseId, async (tx) => {
    allow(await read(tx, shelf, id), conditions);
    await tx.orm.delete(documents).where(at(shelf, id));
  });
}

/** Takes every document of a shelf away. */
export async function clearShelf(shelf: Shelf): Promise<void> {
  const { orm } = await database();
  await orm.delete(documents).where(on(shelf));
}
