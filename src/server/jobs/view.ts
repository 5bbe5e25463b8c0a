import { and, desc, eq, gte, inArray, isNotNull, or, sql } from 'drizzle-orm';
import { isUuid } from '@/core/formats/xapi/names';
import type { JobView } from '@/core/views/job';
import type { Access } from '@/data/database';
import { jobs } from '@/data/schema';
import { database } from '../base/database';
import { notFound } from '../base/errors';
import type { Job } from './queue';

/** How a job of this user stands. */
export async function jobOf(userId: string, id: string): Promise<JobView<unknown>> {
  const { orm } = await database();
  if (!isUuid(id)) throw gone();
  const [job] = await orm
    .select()
    .from(jobs)
    .where(and(eq(jobs.id, id), eq(jobs.userId, userId)));
  return viewOf(job);
}

/** Asks a job of this user to stop at its next step; what it did is not seen by anybody. */
export async function cancelJob(userId: string, id: string): Promise<JobView<unknown>> {
  const { orm } = await database();
  if (!isUuid(id)) throw gone();
  // One that has not begun never does.
  const state = sql<Job['state']>`case when ${jobs.state} = 'queued' then 'cancelled' else ${jobs.state} end`;
  const [job] = await orm
    .update(jobs)
    .set({
      cancelled: true,
      state,
      endedAt: sql`case when ${jobs.state} = 'queued' then clock_timestamp() else ${jobs.endedAt} end`,
    })
    .where(and(eq(jobs.id, id), eq(jobs.userId, userId)))
    .returning();
  return viewOf(job);
}

const gone = () => notFound('job of yours any more');

/** How often work on the figures of a course fails before the course says so: once may be chance. */
const WORTH_SAYING = 2;

/** Whether the figures of a course are behind because the work on them fails again and again. */
export async function figuresFail({ orm }: Access, courseId: number): Promise<boolean> {
  const [job] = await orm
    .select({ id: jobs.id })
    .from(jobs)
    .where(
      and(
        inArray(jobs.kind, ['follow', 'evaluate', 'rebuild']),
        sql`${jobs.payload} ->> 'courseId' = ${String(courseId)}`,
        or(
          and(eq(jobs.state, 'queued'), isNotNull(jobs.message), gte(jobs.attempts, WORTH_SAYING)),
          and(eq(jobs.state, 'failed'), sql`${jobs.endedAt} > clock_timestamp() - interval '1 day'`),
        ),
      ),
    )
    .limit(1);
  return job !== undefined;
}

/** Jobs that wait, run or have failed, the newest first; nothing of what they are about but their kind. */
export async function openJobs({ orm }: Access) {
  const { id, kind, state, step, attempts, message, runAt, createdAt, endedAt } = jobs;
  return orm
    .select({ id, kind, state, step, attempts, message, runAt, createdAt, endedAt })
    .from(jobs)
    .where(inArray(jobs.state, ['queued', 'running', 'failed']))
    .orderBy(desc(jobs.createdAt));
}

function viewOf(job: Job | undefined): JobView<unknown> {
  if (!job) throw gone();
  const { step, done, of, message } = job;
  const state = job.state === 'queued' ? 'running' : job.state;
  return { state, step, done, of, value: job.result, message: state === 'failed' ? message : null };
}
