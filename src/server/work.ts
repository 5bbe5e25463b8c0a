import { eq } from 'drizzle-orm';
import type { Database } from '@/data/database';
import { courses } from '@/data/schema';
import { reportFailure } from './base/failure';
import { rebuild } from './derive/rebuild';
import { evaluateNow } from './derive/evaluation';
import { importStaged } from './intake/intake';
import { importEvery } from './intake/every';
import { lookAtFeed } from './feeds/look';
import { settleUpload } from './feeds/takeIn';
import { takeReport } from './feeds/takeReport';
import { sweep } from './intake/sweep';
import { bringPlans } from './plans/bring';
import { sendCopies } from './mail/dispatch';
import { takeMail } from './mail/incoming';
import { sendLetter } from './mail/letters';
import { remindOfReview } from './remind/review';
import { actUnasked } from './unasked/act';
import { runDryRun } from './unasked/manage';
import { follow } from './xapi/follow';
import { wakeRunner, type Payload } from './jobs/queue';
import { workOff as workOffBy, type AllHandlers, type Working } from './jobs/runner';
import type { JobKind } from '@/data/schema';

type OfCourse = Payload<'follow'>;

/** Work on a course that is there; one that was removed meanwhile needs nothing. */
const onCourse =
  (work: (db: Database, courseId: number, working: Working) => Promise<unknown>) =>
  async (db: Database, { courseId }: OfCourse, working: Working): Promise<unknown> => {
    const [there] = await db.orm.select({ id: courses.id }).from(courses).where(eq(courses.id, courseId));
    return there ? work(db, courseId, working) : null;
  };

/** What is in stays in, whatever becomes of the feed it came from: its file then still waits, and can be left out. */
async function settled(...of: Parameters<typeof settleUpload>): Promise<void> {
  try {
    await settleUpload(...of);
  } catch (error) {
    reportFailure('a feed', error);
  }
}

/** How each kind of job is done. */
export const HANDLERS: AllHandlers = {
  mail: sendCopies,
  letter: sendLetter,
  'mail in': (db, payload, { last }) => takeMail(db, payload, takeReport, last),
  review: remindOfReview,
  follow: onCourse(async (db, courseId) => {
    await follow(db, courseId);
    // Its evaluation may be due at once.
    wakeRunner();
  }),
  evaluate: onCourse((db, courseId, { progress }) => evaluateNow(db, courseId, { progress })),
  rebuild: onCourse((db, courseId, { progress }) => rebuild(db, courseId, progress)),
  import: async (db, payload, working) => {
    const counts = await importStaged(db, payload, working);
    await settled(db, payload, counts);
    return counts;
  },
  'import every': async (db, payload, working) => {
    const outcomes = await importEvery(db, payload, working);
    await settled(
      db,
      payload,
      outcomes.flatMap((o) => o.files),
    );
    return outcomes;
  },
  sweep: onCourse(sweep),
  rules: onCourse(actUnasked),
  plans: onCourse((db, courseId, { progress }) => bringPlans(db, courseId, progress)),
  'dry run': runDryRun,
  feed: lookAtFeed,
};

/** Works off what is due in the queue, until nothing is. For processes without a runner: the command line, tests. */
export const workOff = (db: Database, kinds?: readonly JobKind[]): Promise<void> =>
  workOffBy(db, HANDLERS, kinds);
