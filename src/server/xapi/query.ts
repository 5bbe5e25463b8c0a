import { and, asc, desc, eq, gt, lt, type SQL } from 'drizzle-orm';
import * as yup from 'yup';
import { BROKEN_TEXT, holdsBroken } from '@/core/formats/brokenText';
import { parseJson } from '@/core/formats/json';
import { isIri, isUuid } from '@/core/formats/xapi/names';
import { parseTimestamp } from '@/core/formats/xapi/timestamp';
import { seenStatements as statements } from '@/data/schema';
import { database } from '../base/database';
import { invalid } from '../base/errors';
import { attachmentBytes, attachmentSizes } from './attachments';
import { conditions } from './conditions';
import { agentIn } from './parameters';

/** Statements a page at most; fewer if asked for. */
const MOST = 200;

const instantText = yup
  .string()
  .test('instant', '${path} is not an instant with zone', (v) => v == null || parseTimestamp(v).ok);
const uuid = yup.string().test('uuid', '${path} is not a UUID', (v) => v == null || isUuid(v));
const iri = yup.string().test('iri', '${path} is not an IRI', (v) => v == null || isIri(v));
const flag = yup.string().oneOf(['true', 'false'], '${path} must be true or false');
/** The filters of `GET /xapi/statements` (part three, 2.1.3). */
const filters = yup
  .object({
    statementId: uuid,
    voidedStatementId: uuid,
    agent: yup.string().max(10_000),
    verb: iri,
    activity: iri,
    registration: uuid,
    related_activities: flag,
    related_agents: flag,
    since: instantText,
    until: instantText,
    limit: yup.string().matches(/^\d{1,400}$/, 'limit is not a whole number'),
    format: yup.string().oneOf(['ids', 'exact', 'canonical'], 'format is none of ids, exact, canonical'),
    attachments: flag,
    ascending: flag,
    more: yup.string().max(40_000),
  })
  .noUnknown('There are no such parameters: ${unknown}')
  .strict();
type Filters = yup.InferType<typeof filters>;

export interface Found {
  readonly statements: readonly unknown[];
  /** What belongs to them as bytes, by hash; null if it was not asked for. */
  readonly bytes: ReadonlyMap<string, Uint8Array> | null;
  /** Address of the next page; empty at the end. */
  readonly more: string;
}

const SINGLE = ['statementId', 'voidedStatementId'] as const;

/** Reads and checks the parameters of a request. Throws what is wrong with them. */
export function readFilters(query: URLSearchParams): Filters {
  const twice = [...query.keys()].find((key) => query.getAll(key).length > 1);
  if (twice) throw invalid(`${twice} is given twice.`);
  if (holdsBroken([...query])) throw invalid(`A parameter ${BROKEN_TEXT}.`);
  const asked = filters.validateSync(Object.fromEntries(query));
  if (asked.agent != null) agentIn(asked.agent);
  const single = SINGLE.find((key) => asked[key] != null);
  const others = Object.keys(asked).filter((k) => !['attachments', 'format', single].includes(k));
  if (single && others.length > 0) throw invalid(`${single} goes with attachments and format only.`);
  return asked;
}

interface OneStatement {
  readonly id: string;
  readonly statement: unknown;
  readonly stored: Date;
}

/** One statement by its id, voided or not as asked; null if there is none. */
export async function statementById(
  courseId: number,
  id: string,
  voided: boolean,
): Promise<OneStatement | null> {
  const { orm } = await database();
  const [row] = await orm
    .select({ id: statements.id, statement: statements.statement, stored: statements.stored })
    .from(statements)
    .where(
      and(
        eq(statements.courseId, courseId),
        eq(statements.id, id.toLowerCase()),
        eq(statements.voided, voided),
      ),
    );
  return row ?? null;
}

/** Bytes of attachments that one answer holds, unless those of its first statement alone are more. */
const MOST_BYTES = 20 * 1024 * 1024;

/** As many of the statements as their attachments have room for together, and the bytes of those. */
export async function withBytes<T extends { readonly id: string }>(
  courseId: number,
  rows: readonly T[],
): Promise<{ readonly rows: readonly T[]; readonly bytes: Map<string, Uint8Array> }> {
  const db = await database();
  const sizes = await attachmentSizes(
    db,
    courseId,
    rows.map((r) => r.id),
  );
  const taken = new Map<string, number>();
  const held: T[] = [];
  for (const row of rows) {
    const next = new Map([...taken, ...(sizes.get(row.id) ?? [])]);
    if (held.length > 0 && [...next.values()].reduce((sum, n) => sum + n, 0) > MOST_BYTES) break;
    for (const [sha2, size] of next) taken.set(sha2, size);
    held.push(row);
  }
  return { rows: held, bytes: await attachmentBytes(db, courseId, [...taken.keys()]) };
}

/** A page of statements, the latest stored first unless asked otherwise. */
export async function findStatements(courseId: number, asked: Filters): Promise<Found> {
  const { orm } = await database();
  const query: Query = asked.more == null ? asked : again(asked.more);
  const most = Math.min(Number(query.limit ?? 0) || MOST, MOST);
  const up = query.ascending === 'true';
  const where: SQL[] = [
    eq(statements.courseId, courseId),
    eq(statements.voided, false),
    ...conditions(query),
  ];
  if (query.after != null)
    where.push(up ? gt(statements.place, query.after) : lt(statements.place, query.after));
  const rows = await orm
    .select({ id: statements.id, place: statements.place, statement: statements.statement })
    .from(statements)
    .where(and(...where))
    .orderBy(up ? asc(statements.place) : desc(statements.place))
    .limit(most + 1);
  const first = rows.slice(0, most);
  const { rows: page, bytes } =
    query.attachments === 'true' ? await withBytes(courseId, first) : { rows: first, bytes: null };
  const { after: _, ...rest } = query;
  return {
    statements: page.map((r) => (query.format === 'ids' ? onlyIds(r.statement) : r.statement)),
    bytes,
    more:
      rows.length > page.length
        ? `/xapi/statements?more=${token({ ...rest, after: page.at(-1)!.place })}`
        : '',
  };
}

type Query = Filters & { readonly after?: number };

const token = (query: Query): string => Buffer.from(JSON.stringify(query)).toString('base64url');

/** The largest place that a statement can have. */
const LAST_PLACE = 2 ** 31 - 1;
const placeSchema = yup.number().integer().min(0).max(LAST_PLACE).required();
const textsSchema = yup.object().required();

/**
 * The query that a `more` address goes on with, checked as if it came anew: anybody can write one. It holds no right: what
 * may be seen is decided by the key.
 */
function again(text: string): Query {
  const unknown = invalid('more is no address that was given out here.');
  const read = parseJson(Buffer.from(text, 'base64url').toString('utf8'));
  if (!read.ok || !textsSchema.isValidSync(read.value, { strict: true })) throw unknown;
  const { after, ...rest } = read.value as Record<string, unknown>;
  const texts = Object.entries(rest);
  if (!placeSchema.isValidSync(after, { strict: true }) || 'more' in rest) throw unknown;
  if (texts.some(([, value]) => typeof value !== 'string')) throw unknown;
  try {
    return { ...readFilters(new URLSearchParams(texts as [string, string][])), after };
  } catch {
    throw unknown;
  }
}

const IDENTITY = new Set(['mbox', 'mbox_sha1sum', 'openid', 'account', 'id', 'objectType', 'member']);

/** A statement with agents, activities and verbs cut down to what identifies them (format=ids). */
function onlyIds(statement: unknown): unknown {
  const cut = (value: unknown, key: string): unknown => {
    if (Array.isArray(value)) return value.map((v: unknown) => cut(v, key));
    if (typeof value !== 'object' || value === null) return value;
    const named = ['actor', 'object', 'verb', 'instructor', 'team', 'authority', 'parent', 'grouping'];
    const narrow = [...named, 'category', 'other', 'member'].includes(key) && !('actor' in value);
    return Object.fromEntries(
      Object.entries(value)
        .filter(([k]) => !narrow || IDENTITY.has(k))
        .map(([k, v]: [string, unknown]) => [k, k === 'account' || k === 'extensions' ? v : cut(v, k)]),
    );
  };
  return cut(statement, '');
}
