import { and, asc, desc, eq, gt, lt, type SQL } from 'drizzle-orm';
import * as yup from 'yup';
import { parseInstant } from '@/core/formats/instant';
import { BROKEN_TEXT, holdsBroken } from '@/core/formats/brokenText';
import { statements } from '@/data/schema';
import { database } from '../database';
import { invalid } from '../errors';
import { conditions } from './conditions';

/** Statements a page at most; fewer if asked for. */
const MOST = 200;

const instantText = yup
  .string()
  .test('instant', '${path} is not an instant with zone', (v) => v == null || parseInstant(v).ok);
const flag = yup.string().oneOf(['true', 'false'], '${path} must be true or false');
/** The filters of `GET /xapi/statements` (part three, 2.1.3). */
const filters = yup
  .object({
    statementId: yup.string().uuid('statementId is not a UUID'),
    voidedStatementId: yup.string().uuid('voidedStatementId is not a UUID'),
    agent: yup.string().max(4000),
    verb: yup.string().url().max(2000),
    activity: yup.string().max(2000),
    registration: yup.string().uuid('registration is not a UUID'),
    related_activities: flag,
    related_agents: flag,
    since: instantText,
    until: instantText,
    limit: yup.string().matches(/^\d{1,6}$/, 'limit is not a whole number'),
    format: yup.string().oneOf(['ids', 'exact', 'canonical'], 'format is none of ids, exact, canonical'),
    attachments: flag,
    ascending: flag,
    more: yup.string().max(8000),
  })
  .noUnknown('There are no such parameters: ${unknown}')
  .strict();
type Filters = yup.InferType<typeof filters>;

export interface Found {
  readonly statements: readonly unknown[];
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
  const single = SINGLE.find((key) => asked[key] != null);
  const others = Object.keys(asked).filter((k) => !['attachments', 'format', single].includes(k));
  if (single && others.length > 0) throw invalid(`${single} goes with attachments and format only.`);
  return asked;
}

/** One statement by its id, voided or not as asked; null if there is none. */
export async function statementById(
  courseId: number,
  id: string,
  voided: boolean,
): Promise<{ statement: unknown; stored: Date } | null> {
  const { orm } = await database();
  const [row] = await orm
    .select({ statement: statements.statement, stored: statements.stored })
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
    .select({ place: statements.place, statement: statements.statement })
    .from(statements)
    .where(and(...where))
    .orderBy(up ? asc(statements.place) : desc(statements.place))
    .limit(most + 1);
  const page = rows.slice(0, most);
  const { after: _, ...rest } = query;
  return {
    statements: page.map((r) => (query.format === 'ids' ? onlyIds(r.statement) : r.statement)),
    more: rows.length > most ? `/xapi/statements?more=${token({ ...rest, after: page.at(-1)!.place })}` : '',
  };
}

type Query = Filters & { readonly after?: number };

const token = (query: Query): string => Buffer.from(JSON.stringify(query)).toString('base64url');

const againSchema = filters.shape({ after: yup.number().integer().min(0).required() });

/** The query that a `more` address goes on with. It holds no right: what may be seen is decided by the key. */
function again(text: string): Query {
  try {
    return againSchema.validateSync(JSON.parse(Buffer.from(text, 'base64url').toString('utf8')));
  } catch {
    throw invalid('more is no address that was given out here.');
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
