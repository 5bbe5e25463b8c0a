import { randomBytes, timingSafeEqual } from 'node:crypto';
import { and, asc, desc, eq, isNull } from 'drizzle-orm';
import { holdsBroken } from '@/core/formats/brokenText';
import type { CredentialView, NewCredential } from '@/core/views/live';
import type { Database } from '@/data/database';
import { courses, credentials, user } from '@/data/schema';
import { nowDate } from '../base/clock';
import { config } from '../base/config';
import { database } from '../base/database';
import { invalid, notFound } from '../base/errors';
import { sha256 } from '../base/sha256';
import { requireCourse, type Viewer } from '../access/viewer';

/** The keys of a course, the newest first. Secrets are not among them: nobody can read them again. */
export async function credentialsOf(viewer: Viewer, code: string): Promise<CredentialView[]> {
  const course = await requireCourse(viewer, 'set up', code);
  const { orm } = await database();
  const rows = await orm
    .select({ found: credentials, by: user.name })
    .from(credentials)
    .leftJoin(user, eq(user.id, credentials.userId))
    .where(eq(credentials.courseId, course.id))
    .orderBy(desc(credentials.id));
  return rows.map(({ found, by }) => ({
    id: found.id,
    label: found.label,
    key: found.key,
    by,
    at: found.createdAt.getTime(),
    revokedAt: found.revokedAt?.getTime() ?? null,
  }));
}

/** Makes a key and its secret, which is shown this once. */
export async function createCredential(viewer: Viewer, code: string, label: string): Promise<NewCredential> {
  const course = await requireCourse(viewer, 'act', code);
  const { orm } = await database();
  const key = `k-${randomBytes(9).toString('base64url')}`;
  const secret = randomBytes(32).toString('base64url');
  await orm.insert(credentials).values({
    courseId: course.id,
    label,
    key,
    secretHash: sha256(secret),
    userId: viewer.userId,
    createdAt: nowDate(),
  });
  return { key, secret, endpoint: `${config().baseUrl}/xapi` };
}

/** Takes a key out of use at once. */
export async function revokeCredential(viewer: Viewer, code: string, id: number): Promise<void> {
  const course = await requireCourse(viewer, 'set up', code);
  const { orm } = await database();
  const done = await orm
    .update(credentials)
    .set({ revokedAt: nowDate() })
    .where(and(eq(credentials.id, id), eq(credentials.courseId, course.id), isNull(credentials.revokedAt)))
    .returning({ id: credentials.id });
  if (done.length === 0) throw notFound('key in use');
}

export interface Sender {
  readonly credentialId: number;
  readonly key: string;
  readonly courseId: number;
}

/** Whose the key and secret of a request are; null if nobody's. */
export async function senderOf(authorization: string | null): Promise<Sender | null> {
  const match = /^Basic ([A-Za-z0-9+/=]{1,1000})$/i.exec(authorization ?? '');
  if (!match) return null;
  const text = Buffer.from(match[1]!, 'base64').toString('utf8');
  const colon = text.indexOf(':');
  if (colon < 0) return null;
  const key = text.slice(0, colon);
  if (holdsBroken(key)) return null;
  const { orm } = await database();
  const [found] = await orm
    .select()
    .from(credentials)
    .where(and(eq(credentials.key, key), isNull(credentials.revokedAt)));
  const given = Buffer.from(sha256(text.slice(colon + 1)), 'hex');
  if (!found || !timingSafeEqual(Buffer.from(found.secretHash, 'hex'), given)) return null;
  return { credentialId: found.id, key, courseId: found.courseId };
}

/**
 * Sets the pair of the settings LANTERN_XAPI_KEY and LANTERN_XAPI_SECRET for the course LANTERN_XAPI_COURSE, or the
 * first course. A pair that changed replaces the one before.
 */
export async function setConfiguredCredential(db: Database): Promise<void> {
  const { xapi } = config();
  if (!xapi) return;
  const [course] = await db.orm
    .select({ id: courses.id })
    .from(courses)
    .where(xapi.course ? eq(courses.code, xapi.course) : undefined)
    .orderBy(asc(courses.id))
    .limit(1);
  if (!course) {
    if (xapi.course) throw invalid(`LANTERN_XAPI_COURSE: there is no course “${xapi.course}”.`);
    return;
  }
  const values = { courseId: course.id, label: 'from the settings', secretHash: sha256(xapi.secret) };
  await db.orm
    .insert(credentials)
    .values({ ...values, key: xapi.key, createdAt: nowDate() })
    .onConflictDoUpdate({ target: credentials.key, set: { ...values, revokedAt: null } });
}
