import { eq } from 'drizzle-orm';
import type { CourseOutcome } from '@/core/views/intake';
import type { Database } from '@/data/database';
import { courses } from '@/data/schema';
import { now } from '../base/clock';
import { UseCaseError } from '../base/errors';
import { reportFailure } from '../base/failure';
import { endsJob } from '../jobs/progress';
import type { Payload } from '../jobs/queue';
import type { Working } from '../jobs/runner';
import type { Viewer } from '../access/viewer';
import { importFiles, queueImport } from './intake';
import { importAsNew } from './newFromFiles';
import { coursesBeside } from './packageCourses';
import { readUploads } from './readUploads';
import { staged } from '../staging/staging';

/**
 * Has every course of a staged package imported: the viewer's own are brought up to date, those that are not there are
 * made and become theirs, those of others are left out. Each goes in as a whole; what stops one does not hold up the
 * others. Returns the job.
 */
export const commitEvery = (viewer: Viewer, code: string, id: string): Promise<string> =>
  queueImport(viewer, code, id, 'import every');

/** The same as the queue asks for it. */
export async function importEvery(
  db: Database,
  { courseId, userId, upload }: Payload<'import every'>,
  { job, progress, stillMine }: Pick<Working, 'job' | 'progress' | 'stillMine'>,
): Promise<CourseOutcome[]> {
  const { uploads, told } = await staged(upload, courseId, userId);
  const [course] = await db.orm.select().from(courses).where(eq(courses.id, courseId));
  const { code, zone } = course!;
  const outcomes: CourseOutcome[] = [];
  const { courses: found } = await readUploads(uploads, { code, zone }, progress);
  const all = await coursesBeside(userId, found);
  for (const [i, { code: each, title, standing }] of all.entries()) {
    const done = { code: each, title, made: standing === 'new' };
    if (standing === 'of others') {
      outcomes.push({ ...done, files: [], left: 'is taught by others' });
      continue;
    }
    const options = {
      told,
      jobId: job.id,
      stillMine,
      progress: (step: string) => progress(`${each}: ${step}`, i, all.length),
    };
    try {
      const toMake = { code: each, zone, staff: [userId] };
      const files =
        standing === 'new'
          ? await importAsNew(db, toMake, userId, uploads, now(), options)
          : await importFiles(db, await idOf(db, each), userId, uploads, now(), options);
      outcomes.push({ ...done, files, left: null });
    } catch (error) {
      if (endsJob(error)) throw error;
      const said = error instanceof UseCaseError ? error.message : reportFailure('an import', error);
      outcomes.push({
        ...done,
        files: [],
        left: said ?? 'Something went wrong here; nothing of it went in.',
      });
    }
  }
  return outcomes;
}

async function idOf({ orm }: Database, code: string): Promise<number> {
  const [found] = await orm.select({ id: courses.id }).from(courses).where(eq(courses.code, code));
  return found!.id;
}
