import { breakWeeks } from '@/core/calendar/term';
import { direction, trendSentence } from '@/core/gradebook/trendWords';
import { activityMedians } from '@/core/gradebook/trend';
import { turned, turnIn } from '@/core/gradebook/turns';
import { gradedWorks } from '@/core/measures/measureClass';
import { median, middleHalf } from '@/core/statistics/quantile';
import { groupName } from '@/core/views/scope';
import { rowPerson } from '@/core/views/rosterEntry';
import type { Percent } from '@/core/units';
import type { TrendRow, TrendsView, WorkFigures } from '@/core/views/trends';
import { gradebookColumns } from './gradebook';
import { type AskedScope } from './scope';
import { type Viewer } from '../access/viewer';
import { openView } from './frame';

/** Where the standings of a class go, and whose went another way. */
export async function trendsView(
  viewer: Viewer,
  code: string,
  asked: AskedScope & { readonly student?: number },
): Promise<TrendsView> {
  const opened = await openView(viewer, code, asked, { evaluated: true });
  const { row, snapshot, course, scope, people, frame } = opened;
  const ids = people.map((p) => p.enrolmentId);
  const record = await snapshot.record();
  const works = new Map(record.students.map((s) => [s.id, gradedWorks(record, s, scope.now)]));
  const medians = activityMedians(works.values());
  const measuredOf = await snapshot.measures();
  const weeks = await snapshot.weeks();
  const ofClass = await snapshot.classWeeks();
  const weeksOf = (id: number) =>
    ofClass.map((w): Percent | null => weeks.get(id)?.[w.week - 1]?.standing ?? null);
  const breaks = new Set(breakWeeks(course.term));
  const group = groupName(scope);
  const rows = people.map((p): TrendRow => {
    const m = measuredOf.get(p.enrolmentId);
    const turn = turnIn(works.get(p.enrolmentId) ?? [], medians, scope.window, row.zone);
    return {
      ...rowPerson(p),
      standing: m?.standing.standing ?? null,
      weeks: weeksOf(p.enrolmentId),
      direction: direction(m?.trend ?? null),
      relativePerWeek: m?.trend?.relativePerWeek ?? null,
      sentence: trendSentence(m?.trend ?? null),
      turn,
      turned: turned(turn),
      works: m != null && m.effortTime.minutes >= m.effortTime.classMedian && m.effortTime.minutes > 0,
      minutes: m?.effortTime.minutes ?? 0,
    };
  });
  const student = people.find((p) => p.enrolmentId === asked.student) ?? null;
  const percents = new Map<string, Map<number, Percent>>();
  for (const [id, list] of works)
    for (const work of list) {
      let of = percents.get(work.activity);
      if (!of) percents.set(work.activity, (of = new Map()));
      of.set(id, work.percent);
    }
  const inGroup = new Set(ids);
  return {
    ...frame,
    groupName: group,
    weeks: ofClass.map((w, i) => ({
      week: w.week,
      isBreak: breaks.has(w.week),
      course:
        w.standingLow != null && w.standingMedian != null && w.standingHigh != null
          ? { low: w.standingLow, median: w.standingMedian, high: w.standingHigh }
          : null,
      group: group == null ? null : median(rows.flatMap((r) => (r.weeks[i] == null ? [] : [r.weeks[i]!]))),
    })),
    rows,
    works: gradebookColumns(course)
      .filter((a) => (scope.kind == null || a.kind === scope.kind) && percents.has(String(a.id)))
      .sort((a, b) => (a.dueAt?.getTime() ?? Infinity) - (b.dueAt?.getTime() ?? Infinity))
      .map((a): WorkFigures => {
        const of = percents.get(String(a.id))!;
        return {
          id: a.id,
          title: a.title,
          due: a.dueAt?.getTime() ?? null,
          graded: of.size,
          course: of.size < 4 ? null : middleHalf(of.values()),
          group: group == null ? null : median([...of].flatMap(([id, p]) => (inGroup.has(id) ? [p] : []))),
          student: student ? (of.get(student.enrolmentId) ?? null) : null,
        };
      }),
    student: student ? { id: student.enrolmentId, name: student.name } : null,
  };
}
