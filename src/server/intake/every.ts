import { eq } from 'drizzle-orm';
import type { CourseOutcome } from '@/core/views/intake';
import { courses } from '@/data/schema';
import { now } from '../clock';
import { database } from '../database';
import { UseCaseError } from '../errors';
import { reportFailure } from '../failure';
import { isCancelled, startJob } from '../jobs';
import { requireTaught, type Viewer } from '../viewer';
import { importFiles } from './intake';
import { importAsNew } from './newFromFiles';
import { coursesBeside } from './packageCourses';
import { readUploads } from './readUploads';
import { staged } from './staging';

/**
 * Begins to import every course of a staged package: the viewer's own are brought up to date, those that are not there
 * are made and become theirs, those of others are left out. Each goes in as a whole; what stops one does not hold up
 * the others. Returns the job.
 */
export async function commitEvery(viewer: Viewer, code: string, id: string): Promise<string> {
  const course = await requireTaught(viewer, code);
  const { uploads, told } = await staged(id, course.id, viewer.userId);
  return startJob(viewer.userId, 'Reading the files', async (progress) => {
    const db = await database();
    const outcomes: CourseOutcome[] = [];
    const { courses: found } = await readUploads(uploads, { code, zone: course.zone }, progress);
    const all = await coursesBeside(viewer, found);
    for (const [i, { code: each, title, standing }] of all.entries()) {
      const done = { code: each, title, made: standing === 'new' };
      if (standing === 'of others') {
        outcomes.push({ ...done, files: [], left: 'is taught by others' });
        continue;
      }
      const options = {
        told,
        progress: (step: string) => progress(`${each}: ${step}`, i, all.length),
      };
      try {
        const toMake = { code: each, zone: course.zone, staff: [viewer.userId] };
        const files =
          standing === 'new'
            ? await importAsNew(db, toMake, viewer.userId, uploads, now(), options)
            : await importFiles(db, await idOf(each), viewer.userId, uploads, now(), options);
        outcomes.push({ ...done, files, left: null });
      } catch (error) {
        if (isCancelled(error)) throw error;
        const said = error instanceof UseCaseError ? error.message : reportFailure('an import', error);
        outcomes.push({
          ...done,
          files: [],
          left: said ?? 'Something went wrong here; nothing of it went in.',
        });
      }
    }
    return outcomes;
  });
}

async function idOf(code: string): Promise<number> {
  const { orm } = await database();
  const [found] = await orm.select({ id: courses.id }).from(courses).where(eq(courses.code, code));
  return found!.id;
}
