import { inSpan } from '@/core/calendar/window';
import { addDays, startOfDay } from '@/core/calendar/zone';
import { bandOf, cutsFor, USUAL_BANDS } from '@/core/gradebook/bands';
import type { Score } from '@/core/course/gradebook';
import { standingNow } from '@/core/gradebook/standing';
import { dueFor, isLate, isMissing, isSubmitted } from '@/core/gradebook/status';
import { activityMedians } from '@/core/gradebook/trend';
import { turned, turnIn } from '@/core/gradebook/turns';
import { bookSince } from '@/core/course/bookSince';
import { gradedWorks } from '@/core/measures/measureClass';
import { DAY_MS, type Instant } from '@/core/units';
import { timeSentence, weeklyAnswers } from '@/core/weekly/answers';
import type { StudentFacts, WeeklyFacts, WorkFacts } from '@/core/weekly/facts';
import type { WeekView } from '@/core/views/week';
import { gradebookColumns } from './gradebook';
import { outcomeTitles } from '../snapshot/outcomeTitles';
import { fullName } from '../snapshot/roster';
import { type AskedScope } from './scope';
import { type Viewer } from '../access/viewer';
import { MEASURES } from '@/core/measures/registry';
import { subjectsOf } from '../snapshot/subjects';
import { titlesOf, toReason } from '../snapshot/reasons';
import { reviewTime } from '@/data/queries/reviewTime';
import { database } from '../base/database';
import { openView, type Opened } from './frame';

/** The answers of a window: good news, new concerns, what to reteach, what comes up. */
export async function weekView(viewer: Viewer, code: string, asked: AskedScope): Promise<WeekView> {
  const opened = await openView(viewer, code, asked, { evaluated: true });
  const { people, frame } = opened;
  const facts = await weeklyFacts(opened);
  return {
    ...frame,
    students: people.length,
    time: timeSentence(facts),
    review: await reviewTime(await database(), viewer.userId, opened.row.id),
    answers: people.length === 0 ? [] : weeklyAnswers(facts),
  };
}

async function weeklyFacts({ snapshot, course, scope, people }: Opened): Promise<WeeklyFacts> {
  const ids = people.map((p) => p.enrolmentId);
  const { window, now } = scope;
  const record = await snapshot.record();
  const recordOf = new Map(record.students.map((s) => [s.id, s]));
  const graded = new Map(record.students.map((s) => [s.id, gradedWorks(record, s, now)]));
  const medians = activityMedians(graded.values());
  const subjects = await subjectsOf(snapshot, ids, scope.kind);
  const dayBefore = startOfDay(window.from, course.term.zone) - 1;
  const stored = await snapshot.flags();
  const flagRows = ids.flatMap((id) => stored.get(id) ?? []);
  const titleOf = titlesOf(course);
  const acts = new Map<number, string[]>();
  for (const flag of flagRows) {
    if (flag.level !== 'act' || flag.closedOn != null || !inSpan(window, flag.openedOn)) continue;
    const reason = toReason(flag, titleOf);
    acts.set(flag.enrolmentId, [...(acts.get(flag.enrolmentId) ?? []), reason.head]);
  }
  const learned = await snapshot.masteries();
  // Instants of the window: a comparison of numbers, where a local day for each of sixty thousand works is slow.
  const from = startOfDay(window.from, course.term.zone);
  const until = startOfDay(addDays(window.to, 1), course.term.zone);
  const within = (at: Instant | null) => at != null && at >= from && at < until;
  const bands = course.row.bands ?? USUAL_BANDS;
  const columns = gradebookColumns(course)
    .filter((a) => scope.kind == null || a.kind === scope.kind)
    .map((a) => ({
      ...a,
      key: String(a.id),
      work: { due: a.dueAt?.getTime() ?? null },
      cuts: cutsFor(bands, a.kind),
      graded: 0,
      low: 0,
      handedIn: 0,
      returnedInWindow: 0,
    }));

  const tally = (a: (typeof columns)[number], score: Score | undefined) => {
    if (isSubmitted(score, now)) a.handedIn++;
    if (!score || score.excused || score.points == null || !a.points) return;
    if (score.returned == null || score.returned > now) return;
    a.graded++;
    if (bandOf((100 * score.points) / a.points, a.cuts) === 'low') a.low++;
    if (within(score.returned)) a.returnedInWindow++;
  };
  const students = people.map((p, i): StudentFacts => {
    const subject = subjects[i]!;
    const own = recordOf.get(p.enrolmentId);
    const joined = startOfDay(own?.joined ?? course.term.start, course.term.zone);
    const book = bookSince(record, joined);
    let due = 0;
    let onTime = 0;
    let missing = 0;
    // One pass over the sixty thousand cells of a large course, for the student and for the works.
    for (const a of columns) {
      const score = own?.scores.get(a.key);
      const { work } = a;
      tally(a, score);
      const at = dueFor(work, score);
      if (at == null || at < joined || score?.excused) continue;
      if (isMissing(work, score, now)) missing++;
      if (at > now || !within(at)) continue;
      due++;
      if (isSubmitted(score, now) && !isLate(work, score, now)) onTime++;
    }
    const turn = turnIn(graded.get(p.enrolmentId) ?? [], medians, window, course.term.zone);
    return {
      id: p.enrolmentId,
      studentId: p.studentId,
      name: fullName(p),
      section: p.section,
      days: MEASURES.days.value(subject, scope) ?? 0,
      minutes:
        MEASURES.minutes.value(subject, { ...scope, window: { ...window.compared, before: null } }) ?? 0,
      minutesBefore: MEASURES.minutesBefore.value(subject, scope),
      due,
      onTime,
      missing,
      standing: MEASURES.standing.value(subject),
      standingBefore: own ? standingNow(book, own.scores, dayBefore) : null,
      turned: turned(turn),
      turnChange: turn?.change ?? null,
      newActs: acts.get(p.enrolmentId) ?? [],
      flagged: (stored.get(p.enrolmentId) ?? []).some((f) => f.closedOn == null),
      silence: MEASURES.silence.value(subject) ?? 0,
      usualGap: MEASURES.usualGap.value(subject),
      outcomes: new Map((learned.get(p.enrolmentId) ?? []).map((m) => [m.outcomeId, m.level])),
    };
  });
  const openedOf = new Map<number, number>();
  const opened = await snapshot.opened();
  for (const id of ids) for (const a of opened.get(id) ?? []) openedOf.set(a, (openedOf.get(a) ?? 0) + 1);
  const works = columns.map((a): WorkFacts => {
    const { due } = a.work;
    return {
      id: a.id,
      title: a.title,
      due,
      graded: a.graded,
      low: a.low,
      outcomes: outcomeTitles(course, a.id),
      cuts: a.cuts,
      inWindow:
        (due != null && due <= now && within(due)) || (a.graded > 0 && a.returnedInWindow >= a.graded / 2),
      comesDue: due != null && due > now && due <= now + 7 * DAY_MS,
      handedIn: a.handedIn,
      opened: openedOf.get(a.id) ?? 0,
    };
  });
  return {
    students,
    works,
    outcomes: course.outcomes.map(({ id, title }) => ({ id, title })),
    openedFlags: flagRows.filter((f) => inSpan(window, f.openedOn)).length,
    closedFlags: flagRows.filter((f) => f.closedOn != null && inSpan(window, f.closedOn)).length,
  };
}
