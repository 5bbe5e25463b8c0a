import { and, eq, gt, inArray, lte } from 'drizzle-orm';
import { localDate, startOfDay } from '@/core/calendar/zone';
import { timeWindows } from '@/core/flags/indicators';
import { lazyMeasures } from '@/core/measures/measureClass';
import { duesBetween, type Grading } from '@/core/unasked/occasions';
import type { Look } from '@/core/unasked/lookAt';
import { testsIn } from '@/core/rules/selection';
import type { LiveRule } from '@/core/unasked/rule';
import type { Instant } from '@/core/units';
import type { Access } from '@/data/database';
import { enrolments, scores } from '@/data/schema';
import type { CourseModel } from '@/data/queries/courseModel';
import type { Snapshot } from '../snapshot/snapshot';
import { occasionCells, ruleWorks } from './cells';
import { once } from '../base/once';

/** What a pass over a course goes by. */
export interface Pass {
  readonly from: Instant;
  readonly at: Instant;
  readonly gradings: readonly Grading[];
  /** Active students. */
  readonly students: readonly number[];
}

/** The class as its rules see it in a pass. */
export function looksAt(access: Access, snapshot: Snapshot, model: CourseModel, pass: Pass) {
  const { from, at, gradings, students } = pass;
  const { zone } = model.term;
  const works = ruleWorks(model);
  // Yesterday is judged as it ended; everything else as of now, with the class by its last evaluation.
  const yesterday = startOfDay(localDate(at, zone), zone) - 1;
  const ofYesterday = once(async () =>
    lazyMeasures(await snapshot.record(), timeWindows(model.row.indicators), yesterday),
  );
  const touched = [...new Set(gradings.map((g) => g.student))];
  return (rule: LiveRule): Look => {
    const holds = rule.when.on === 'holds';
    // Of grades only who got one is read, unless a place among all is asked for.
    const only = rule.when.on === 'graded' && !hasPlace(rule) ? touched : undefined;
    return {
      from,
      at,
      zone,
      dataUntil: model.row.dataUntil?.getTime() ?? null,
      students,
      works,
      gradings,
      planMoments: [],
      dues: (after, until) => dues(access, snapshot, model, students, after, until, at),
      cells: holds
        ? occasionCells(snapshot, { at: yesterday, measured: ofYesterday })
        : occasionCells(snapshot, { at, only }),
    };
  };
}

/** Whether a rule asks for a place in the class: then all of it is looked at. */
export const hasPlace = ({ where }: Pick<LiveRule, 'where'>): boolean =>
  testsIn(where).some((t) => t.is === 'lowest' || t.is === 'highest');

/** What is due for whom in a span: assignments by their date, and those who have one of their own. */
async function dues(
  { orm }: Access,
  snapshot: Snapshot,
  model: CourseModel,
  students: readonly number[],
  from: Instant,
  to: Instant,
  asOf: Instant,
) {
  const works = ruleWorks(model);
  const own = await orm
    .select({ student: scores.enrolmentId, work: scores.activityId })
    .from(scores)
    .innerJoin(enrolments, eq(enrolments.id, scores.enrolmentId))
    .where(
      and(
        eq(enrolments.courseId, model.row.id),
        inArray(enrolments.status, ['active']),
        gt(scores.ownDueAt, new Date(from)),
        lte(scores.ownDueAt, new Date(to)),
      ),
    );
  const within = works.filter((w) => w.due != null && w.due > from && w.due <= to);
  if (own.length === 0 && within.length === 0) return [];
  const known = await snapshot.scores();
  const scoreOf = (student: number, work: number) => known.get(student)?.get(String(work));
  const span = { from, to, asOf };
  const isWithin = new Set(within.map((w) => w.id));
  return [
    ...duesBetween(within, students, scoreOf, span),
    ...own.flatMap(({ student, work }) =>
      isWithin.has(work)
        ? []
        : duesBetween(
            works.filter((w) => w.id === work),
            [student],
            scoreOf,
            span,
          ),
    ),
  ];
}
