import { addDays, localDate, startOfDay } from '@/core/calendar/zone';
import { weekOf } from '@/core/calendar/term';
import { dryRun, type WouldHave } from '@/core/unasked/dryRun';
import { factWords } from '@/core/unasked/factWords';
import type { RuleParts } from '@/core/unasked/rule';
import { HELD_SAYS } from '@/core/unasked/guards';
import { docText } from '@/core/messages/docText';
import { groupBy } from '@/core/groupBy';
import type { RuleForm } from '@/core/forms/rule';
import type { DryRun, DryRunLine } from '@/core/views/rules';
import type { Database } from '@/data/database';
import type { CourseRow } from '@/data/queries/courseModel';
import { ruleCourseOf } from '@/data/queries/rules';
import { checkedText, filledCopies } from '../act/copies';
import type { Viewer } from '../access/viewer';
import { now } from '../base/clock';
import { unwatched, type Progress } from '../jobs/progress';
import { roster } from '../snapshot/roster';
import { snapshotOf } from '../snapshot/snapshot';
import { classTraits } from '../snapshot/traits';
import { pastOf } from './past';
import { messageOf } from './send';

/** Weeks that a dry run goes back, at most to the beginning of the term. */
const WEEKS_BACK = 9;
/** Lines that come with their text. */
const MOST_LINES = 200;

/** What a rule would have done in the weeks gone by, one thing after the other. */
export async function wouldHave(
  db: Database,
  course: CourseRow,
  parts: RuleParts,
  progress: Progress = unwatched,
): Promise<{ readonly from: string; readonly to: string; readonly all: readonly WouldHave[] }> {
  const until = now();
  const to = localDate(until, course.zone);
  const back = addDays(to, -7 * WEEKS_BACK);
  const from = back > course.termStart ? back : course.termStart;
  const rule = { id: 0, since: startOfDay(from, course.zone), ...parts };
  const { guards } = await ruleCourseOf(db, course.id);
  const past = await pastOf(db, course, rule, until);
  const all = await dryRun(rule, guards, past, (done, of) => progress('Going through the weeks', done, of));
  return { from, to, all };
}

/** The same as it is shown: by week, and the latest with their texts, filled with what stands now. */
export async function dryRunView(
  db: Database,
  viewer: Viewer,
  course: CourseRow,
  form: RuleForm,
  progress: Progress = unwatched,
): Promise<DryRun> {
  const { from, to, all } = await wouldHave(db, course, form.parts, progress);
  const snapshot = await snapshotOf(course);
  const { term } = await snapshot.model();
  const byWeek = groupBy(all, (w) => weekOf(term, w.goes));
  const first = weekOf(term, startOfDay(from, course.zone));
  const last = weekOf(term, now());
  const weeks = Array.from({ length: Math.max(0, last - first + 1) }, (_, i) => {
    const own = byWeek.get(first + i) ?? [];
    return { week: first + i, ...sums(own) };
  });
  const shown = [...all].sort((a, b) => b.goes - a.goes || a.student - b.student).slice(0, MOST_LINES);
  await progress('Writing the texts');
  return {
    from,
    to,
    weeks,
    ...sums(all),
    lines: await linesOf(viewer, course, form, shown),
    more: all.length - shown.length,
  };
}

function sums(list: readonly WouldHave[]) {
  const gone = list.filter((w) => w.held == null);
  return {
    messages: gone.length,
    students: new Set(gone.map((w) => w.student)).size,
    held: list.length - gone.length,
  };
}

async function linesOf(
  viewer: Viewer,
  course: CourseRow,
  form: RuleForm,
  list: readonly WouldHave[],
): Promise<DryRunLine[]> {
  const { about } = await classTraits(await snapshotOf(course), { only: [] });
  const people = new Map(
    (await roster(course.id, [...new Set(list.map((w) => w.student))])).map((p) => [p.enrolmentId, p]),
  );
  const texts = new Map<string, { subject: string; text: string }>();
  for (const [work, own] of groupBy(list, (w) => w.work)) {
    const students = [...new Set(own.map((w) => w.student))].filter(
      (id) => people.get(id)?.status === 'active',
    );
    if (students.length === 0) continue;
    const input = messageOf(form, 'dry run', work, students);
    const { copies, faults } = await filledCopies(viewer, course, checkedText(input), {
      proposes: form.parts.then.withPlan,
    });
    for (const { person, subject, doc } of copies)
      texts.set(`${work} ${person.enrolmentId}`, { subject, text: docText(doc) });
    for (const [id, fault] of faults) texts.set(`${work} ${id}`, { subject: '', text: fault });
  }
  return list.map(({ student, work, goes, held, facts }) => {
    const person = people.get(student);
    const text = texts.get(`${work} ${student}`);
    return {
      enrolmentId: student,
      studentId: person?.studentId ?? '',
      name: person?.name ?? '',
      at: goes,
      held: held && HELD_SAYS[held],
      facts: factWords(facts, about),
      subject: text?.subject ?? '',
      text: text?.text ?? '',
    };
  });
}
