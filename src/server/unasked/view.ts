import { inArray } from 'drizzle-orm';
import { docText } from '@/core/messages/docText';
import { staleText } from '@/core/course/stale';
import { groupBy } from '@/core/groupBy';
import type { RuleLine, RulesView, WaitingLine } from '@/core/views/rules';
import { occasionsOf, ruleCourseOf, rulesOf, type OccasionRow, type RuleRow } from '@/data/queries/rules';
import { user } from '@/data/schema';
import type { Database } from '@/data/database';
import type { CourseRow } from '@/data/queries/courseModel';
import { requireCourse, type Viewer } from '../access/viewer';
import { checkedText, filledCopies } from '../act/copies';
import { database } from '../base/database';
import { UseCaseError } from '../base/errors';
import { trayOf } from '@/data/queries/tray';
import { occasionLines } from '../look/occasions';
import { openWords } from '../look/words';
import { ensureEvaluated } from '../derive/evaluation';
import { courseHead } from '../snapshot/courseHead';
import { snapshotOf } from '../snapshot/snapshot';
import { classTraits } from '../snapshot/traits';
import { ownerOf } from '../access/owner';
import { messageOf } from './send';
import { courseLogOf } from '@/data/queries/courseLog';

/** Lines of the log that are shown at first, and how many more at a time. */
const LOG_PAGE = 100;

/** The rules of a course, what waits for a yes, what they have to say, and the latest of what they did. */
export async function rulesView(viewer: Viewer, code: string, logged = LOG_PAGE): Promise<RulesView> {
  const course = await ensureEvaluated(await requireCourse(viewer, 'act', code));
  const db = await database();
  const all = await rulesOf(db, course.id);
  const { guards } = await ruleCourseOf(db, course.id);
  const { about } = await classTraits(await snapshotOf(course), { only: [] });
  const waiting = await occasionsOf(db, course.id, ['waiting']);
  const tray = await trayOf(db, viewer.userId, course.id);
  const log = await occasionsOf(db, course.id, ['to go', 'sent', 'held', 'declined', 'done'], {
    most: logged + 1,
  });
  return {
    course: courseHead(course),
    about,
    guards,
    rules: await ruleLines(db, course, viewer, all),
    waiting: await waitingLines(db, course, viewer, waiting, all),
    tray: tray.map((t) => t.enrolmentId),
    trayFrom: tray.at(-1)?.source ?? null,
    words: await openWords(db, course),
    log: await occasionLines(db, course, log.slice(0, logged)),
    changes: await courseLogOf(db, course.id, 10),
    moreLogged: log.length > logged ? logged + LOG_PAGE : null,
  };
}

async function ruleLines(
  db: Database,
  course: CourseRow,
  viewer: Viewer,
  all: readonly RuleRow[],
): Promise<RuleLine[]> {
  const counts = await occasionsOf(db, course.id, ['sent', 'held', 'word', 'done']);
  const of = groupBy(counts, (o) => o.ruleId);
  const names = await db.orm
    .select({ id: user.id, name: user.name })
    .from(user)
    .where(
      inArray(
        user.id,
        all.map((r) => r.userId),
      ),
    );
  const nameOf = new Map(names.map((n) => [n.id, n.name]));
  return all.map(({ id, name, starter, numbers, parts, state, why, userId, since, staleAt }) => {
    const own = of.get(id) ?? [];
    const count = (...states: OccasionRow['state'][]) => own.filter((o) => states.includes(o.state)).length;
    const until = course.dataUntil?.getTime() ?? null;
    return {
      id,
      form: { id, name, starter, numbers, parts },
      state,
      why,
      by: nameOf.get(userId) ?? '',
      own: userId === viewer.userId,
      since: since?.getTime() ?? null,
      stale: state !== 'on' || staleAt == null ? null : staleText(until, course.zone),
      sent: count('sent'),
      held: count('held'),
      words: count('word', 'done'),
    };
  });
}

/** What waits for approval, each with the text as it would go now: in the name of the viewer, who may approve it. */
async function waitingLines(
  db: Database,
  course: CourseRow,
  viewer: Viewer,
  list: readonly OccasionRow[],
  all: readonly RuleRow[],
): Promise<WaitingLine[]> {
  const lines = new Map((await occasionLines(db, course, list)).map((l) => [l.id, l]));
  const made: WaitingLine[] = [];
  for (const rule of all) {
    const own = list.filter((o) => o.ruleId === rule.id);
    const owner = own.length > 0 ? await ownerOf(db, rule.userId, course.id) : null;
    if (!owner) continue;
    for (const [work, batch] of groupBy(own, (o) => o.activityId)) {
      const input = messageOf(rule, 'look', work, [...new Set(batch.map((o) => o.enrolmentId))]);
      let texts = new Map<number, Pick<WaitingLine, 'subject' | 'text' | 'fault'>>();
      let all = '';
      try {
        const { copies, faults } = await filledCopies(viewer, course, checkedText(input), {
          proposes: rule.parts.then.withPlan,
        });
        texts = new Map([
          ...copies.map(({ person, subject, doc }) => [
            person.enrolmentId,
            { subject, text: docText(doc), fault: null },
          ]),
          ...[...faults].map(([id, fault]) => [id, { subject: '', text: '', fault }]),
        ] as [number, Pick<WaitingLine, 'subject' | 'text' | 'fault'>][]);
      } catch (error) {
        if (!(error instanceof UseCaseError)) throw error;
        all = error.message;
      }
      for (const o of batch)
        made.push({
          ...lines.get(o.id)!,
          ...(texts.get(o.enrolmentId) ?? {
            subject: '',
            text: '',
            fault: all || 'There is no text for them.',
          }),
        });
    }
  }
  return made;
}
