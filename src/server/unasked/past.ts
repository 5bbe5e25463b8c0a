import { addDays, localDate, startOfDay } from '@/core/calendar/zone';
import { timeWindows } from '@/core/flags/indicators';
import { isReturned, isSubmitted } from '@/core/gradebook/status';
import { lazyMeasures } from '@/core/measures/measureClass';
import { duesBetween, isMeant, weeklyTimes } from '@/core/unasked/occasions';
import type { Past } from '@/core/unasked/dryRun';
import type { LiveRule } from '@/core/unasked/rule';
import { HOUR_MS, type Instant } from '@/core/units';
import type { Access } from '@/data/database';
import type { CourseRow } from '@/data/queries/courseModel';
import { roster } from '../snapshot/roster';
import { snapshotOf } from '../snapshot/snapshot';
import { occasionCells, ruleWorks } from './cells';
import { once } from '../base/once';
import { planMoments } from './planMoments';
import { readersOf } from './readers';

/**
 * A course over the weeks gone by, for a dry run. Grades, hand-ins and days are as they were at each instant, each with
 * the score that stands now; groups, plans, messages read and outcomes are as they stand now.
 */
export async function pastOf(
  access: Access,
  course: CourseRow,
  rule: LiveRule,
  until: Instant,
): Promise<Past> {
  const snapshot = await snapshotOf(course);
  const model = await snapshot.model();
  const { zone } = model.term;
  const scores = await snapshot.scores();
  const works = ruleWorks(model);
  const record = await snapshot.record();
  const people = (await roster(course.id)).filter((p) => p.status === 'active');
  const readers = await readersOf(
    access,
    course.id,
    people.map((p) => p.enrolmentId),
    until,
  );
  const scoreOf = (student: number, work: number) => scores.get(student)?.get(String(work));
  const allGrades = people.flatMap(({ enrolmentId: student }) =>
    [...(scores.get(student) ?? [])].flatMap(([id, score]) =>
      isReturned(score, until) ? [{ student, work: Number(id), at: score.returned! }] : [],
    ),
  );
  const { when } = rule;
  const plans =
    when.on === 'step overdue' || when.on === 'plan finished'
      ? await planMoments(
          snapshot,
          people.map((p) => p.enrolmentId),
          zone,
        )
      : [];
  const workOf = new Map(works.map((w) => [w.id, w]));
  const grades =
    when.on === 'graded'
      ? allGrades.filter((g) => {
          const work = workOf.get(g.work);
          return work != null && isMeant(when.which, work);
        })
      : [];
  const joined = (student: { readonly joined: string | null }) => student.joined ?? model.term.start;
  const everyone = people.map((p) => p.enrolmentId);
  return {
    course: course.id,
    term: model.term,
    passes: ascending(passes()),
    lookOf: (from, at) => {
      const today = localDate(at, zone);
      const students = people.filter((p) => joined(p) <= today).map((p) => p.enrolmentId);
      const asOf = when.on === 'holds' ? startOfDay(today, zone) - 1 : at;
      const measured = once(() =>
        Promise.resolve(lazyMeasures(record, timeWindows(course.indicators), asOf)),
      );
      return Promise.resolve({
        from,
        at,
        zone,
        // What came when is not kept: each day is taken to have been whole the next.
        dataUntil: at,
        students,
        works,
        gradings: grades.filter((g) => g.at > from && g.at <= at),
        planMoments: plans,
        dues: (after, to) =>
          Promise.resolve(duesBetween(works, students, scoreOf, { from: after, to, asOf: at })),
        cells: occasionCells(snapshot, { at: asOf, measured }),
      });
    },
    readerOf: (student) => readers(student),
    workOf: (student, work, at) => {
      const score = scoreOf(student, work);
      return { excused: score?.excused === true, handedIn: isSubmitted(score, at) };
    },
  };

  /** The end of each local day with an instant in it, or now. */
  function byDay(instants: readonly Instant[]): Instant[] {
    const days = new Set(
      instants.filter((at) => at > rule.since && at <= until).map((at) => localDate(at, zone)),
    );
    return [...days].map((day) => Math.min(until, startOfDay(addDays(day, 1), zone) - 1));
  }

  function passes(): Instant[] {
    const since = rule.since;
    const within = (at: Instant) => at > since && at <= until;
    switch (when.on) {
      case 'graded':
        return byDay(grades.map((g) => g.at));
      case 'due':
        return duesBetween(works, everyone, () => undefined, {
          from: since,
          to: until + when.hours * HOUR_MS,
          asOf: 0,
        })
          .concat(
            people.flatMap(({ enrolmentId: student }) =>
              works.flatMap((w) => {
                const own = scoreOf(student, w.id)?.due;
                return own == null ? [] : [{ student, work: w.id, due: own }];
              }),
            ),
          )
          .map((d) => d.due - when.hours * HOUR_MS)
          .filter(within);
      case 'weekly': {
        const times: Instant[] = [];
        for (let at = since; at < until; at = Math.min(until, at + 7 * 24 * HOUR_MS))
          times.push(...weeklyTimes(rule, { from: at, to: Math.min(until, at + 7 * 24 * HOUR_MS) }, zone));
        return times;
      }
      case 'holds': {
        const days: Instant[] = [];
        for (let day = localDate(since, zone); day <= localDate(until, zone); day = addDays(day, 1))
          days.push(startOfDay(day, zone));
        return days.filter(within);
      }
      case 'step overdue':
      case 'plan finished':
        return byDay(plans.map((p) => p.at));
    }
  }
}

const ascending = (instants: readonly Instant[]): Instant[] => [...new Set(instants)].sort((a, b) => a - b);
