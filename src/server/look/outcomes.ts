import { classByOutcome, type TaughtOutcome } from '@/core/outcomes/classByOutcome';
import { learningPairs, lessonGroups, type LessonGroup } from '@/core/outcomes/lessons';
import { notAskedLately } from '@/core/outcomes/mastery';
import type { OutcomeGroup, OutcomeRow, OutcomesView } from '@/core/views/outcomes';
import type { GoalLine } from '@/core/views/outcomeItems';
import { rowPerson, type RosterEntry } from '@/core/views/rosterEntry';
import { coverageOf, withParts } from '@/core/outcomes/coverage';
import type { Instant } from '@/core/units';
import { readItemsSeen } from '@/data/queries/learning';
import type { CourseModel } from '@/data/queries/courseModel';
import { mayIn, type Viewer } from '../access/viewer';
import { database } from '../base/database';
import { goalsIn } from '../snapshot/goals';
import type { Snapshot } from '../snapshot/snapshot';
import { openView } from './frame';
import { type AskedScope } from './scope';

/** The outcomes of a course with what comes before each; a prerequisite that is not there is passed over. */
export function taughtOutcomes({ outcomes }: CourseModel): TaughtOutcome[] {
  const ids = new Map(outcomes.map((o) => [o.externalId, o.id]));
  return outcomes.map(({ id, title, parentId, prerequisites }) => ({
    id,
    title,
    parentId,
    before: prerequisites.flatMap((p) => ids.get(p) ?? []),
  }));
}

/**
 * A class by outcome: where it stands worst, how far each student is, whom to teach what together, and the goals.
 *
 * @param options.coverage whether what each saw of the items is wanted, for a file
 */
export async function outcomesView(
  viewer: Viewer,
  code: string,
  asked: AskedScope,
  { coverage = false } = {},
): Promise<OutcomesView> {
  const { snapshot, course, scope, people, frame } = await openView(viewer, code, asked, { evaluated: true });
  const learned = await snapshot.masteries();
  const flags = await snapshot.flags();
  const outcomes = taughtOutcomes(course);
  const learners = people.map((p) => ({
    id: p.enrolmentId,
    outcomes: new Map(
      (learned.get(p.enrolmentId) ?? []).map((m) => [
        m.outcomeId,
        { mean: m.mean, low: m.low, high: m.high, level: m.level, askedAt: m.askedAt?.getTime() ?? null },
      ]),
    ),
  }));
  type Own = (typeof learners)[number];
  const { groups, alone } = lessonGroups(outcomes, learners);
  const pairs = learningPairs(
    outcomes,
    learners,
    ({ id }) => !(flags.get(id) ?? []).some((f) => f.closedOn == null),
  );
  const byIds = ({ outcome, members }: LessonGroup<Own>): OutcomeGroup => ({
    outcome,
    members: members.map((m) => m.id),
  });
  const covered = coverage ? await coverageIn(course) : () => undefined;
  const standings = classByOutcome(outcomes, learners);
  const shown = standings.filter((o) => o.taught).map((o) => o.id);
  return {
    ...frame,
    outcomes: standings,
    rows: people.map((p, i): OutcomeRow => {
      const own = learners[i]!.outcomes;
      return {
        ...rowPerson(p),
        cells: Object.fromEntries(
          shown.flatMap((id) => {
            const m = own.get(id);
            if (!m) return [];
            const { mean, low, high, level } = m;
            const old = notAskedLately(m.askedAt, scope.now);
            return [[id, { mean, low, high, level, old, coverage: covered(p.enrolmentId, id) }]];
          }),
        ),
        behind: shown.filter((id) => own.get(id)?.level === 'not yet').length,
      };
    }),
    groups: groups.map(byIds),
    alone: alone.map(byIds),
    pairs: pairs.map(({ outcome, helper, helped }) => ({ outcome, members: [helper.id, helped.id] })),
    goals: await goalLines(snapshot, people, outcomes, scope.now),
    mayAct: await mayIn(viewer, 'act', course.row.id),
  };
}

/** What each student saw of the items behind each outcome and its parts. */
async function coverageIn(course: CourseModel) {
  const { items, seen } = await readItemsSeen(await database(), course.row.id);
  const own = new Map(seen.map((s) => [`${s.student} ${s.activity}`, s]));
  const behind = new Map(
    course.outcomes.map((o) => {
      const parts = withParts(o.id, course.outcomes);
      const of = course.activities.filter((a) =>
        (course.covers.get(String(a.id)) ?? []).some((covered) => parts.has(Number(covered))),
      );
      return [o.id, of.map((a) => a.id)];
    }),
  );
  return (student: number, outcome: number) =>
    coverageOf(
      (behind.get(outcome) ?? []).map((activity) => ({
        items: items.get(activity) ?? 0,
        seen: own.get(`${student} ${activity}`)?.seen ?? 0,
        right: own.get(`${student} ${activity}`)?.right ?? 0,
      })),
    );
}

/** The goals of a course with how far each is whom they are for. */
async function goalLines(
  snapshot: Snapshot,
  people: readonly RosterEntry[],
  outcomes: readonly TaughtOutcome[],
  at: Instant,
): Promise<GoalLine[]> {
  const { goals, progressOf } = await goalsIn(snapshot, at);
  const titleOf = new Map(outcomes.map((o) => [o.id, o.title]));
  const nameOf = new Map(people.map((p) => [p.enrolmentId, p.name]));
  return goals
    .filter((g) => g.student == null || nameOf.has(g.student))
    .map((g) => ({
      id: g.id,
      outcomes: g.outcomes,
      from: g.from,
      by: g.by,
      student: g.student == null ? null : { id: g.student, name: nameOf.get(g.student)! },
      titles: g.outcomes.flatMap((id) => titleOf.get(id) ?? []),
      progress: people
        .filter((p) => g.student == null || p.enrolmentId === g.student)
        .map((p) => ({ id: p.enrolmentId, name: p.name, ...progressOf(g, p.enrolmentId) })),
    }));
}
