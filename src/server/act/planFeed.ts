import { randomBytes } from 'node:crypto';
import { and, eq, isNull } from 'drizzle-orm';
import { isOpen } from '@/core/plans/plan';
import { planCalendar } from '@/core/formats/planCalendar';
import { courses, enrolments, planFeeds } from '@/data/schema';
import { requireStudent, type Viewer } from '../access/viewer';
import { now, nowDate } from '../base/clock';
import { database } from '../base/database';
import { sha256 } from '../base/sha256';
import { snapshotOf } from '../snapshot/snapshot';
import { tickedPlans } from '../snapshot/tickedPlans';

/** Makes a new private address for the viewer's plans as a calendar; the one before it ends. Returns what it ends with. */
export async function newPlanFeed(viewer: Viewer): Promise<string> {
  const personId = requireStudent(viewer);
  const { orm } = await database();
  const token = randomBytes(24).toString('base64url');
  const set = { tokenHash: sha256(token), madeAt: nowDate() };
  await orm
    .insert(planFeeds)
    .values({ personId, ...set })
    .onConflictDoUpdate({ target: planFeeds.personId, set });
  return token;
}

/** The open steps of whose address it is, over all their courses, as a calendar; null for an address that is nobody's. */
export async function planFeed(token: string): Promise<string | null> {
  if (!/^[\w-]{32}$/.test(token)) return null;
  const { orm } = await database();
  const [feed] = await orm
    .select()
    .from(planFeeds)
    .where(eq(planFeeds.tokenHash, sha256(token)));
  if (!feed) return null;
  const places = await orm
    .select({ course: courses, enrolmentId: enrolments.id })
    .from(enrolments)
    .innerJoin(courses, eq(courses.id, enrolments.courseId))
    .where(
      and(
        eq(enrolments.personId, feed.personId),
        eq(enrolments.status, 'active'),
        isNull(courses.forImport),
        isNull(courses.archivedAt),
      ),
    );
  const steps = [];
  for (const { course, enrolmentId } of places)
    for (const plan of await tickedPlans(await snapshotOf(course), [enrolmentId]))
      for (const s of plan.steps)
        if (isOpen(s))
          steps.push({
            uid: `step-${s.id}@ready-lantern.example`,
            on: s.on,
            title: s.title,
            minutes: s.minutes,
            course: course.title,
            why: s.why,
            lesson: s.lessonAt == null ? null : { at: s.lessonAt, place: s.place ?? '' },
          });
  return planCalendar(steps, now());
}
