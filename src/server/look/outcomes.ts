import { classByOutcome, type TaughtOutcome } from '@/core/outcomes/classByOutcome';
import { learningPairs, lessonGroups, type LessonGroup } from '@/core/outcomes/lessons';
import { notAskedLately } from '@/core/outcomes/mastery';
import type { OutcomeGroup, OutcomeRow, OutcomesView } from '@/core/views/outcomes';
import { rowPerson } from '@/core/views/rosterEntry';
import type { CourseModel } from '@/data/queries/courseModel';
import { type Viewer } from '../access/viewer';
import { openView } from './frame';
import { type AskedScope } from './scope';

/** The outcomes of a course with what comes before each; a prerequisite that is not there is passed over. */
function taughtOutcomes({ outcomes }: CourseModel): TaughtOutcome[] {
  const ids = new Map(outcomes.map((o) => [o.externalId, o.id]));
  return outcomes.map(({ id, title, parentId, prerequisites }) => ({
    id,
    title,
    parentId,
    before: prerequisites.flatMap((p) => ids.get(p) ?? []),
  }));
}

/** A class by outcome: where it stands worst, how far each student is, and whom to teach what together. */
export async function outcomesView(viewer: Viewer, code: string, asked: AskedScope): Promise<OutcomesView> {
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
            return [[id, { mean, low, high, level, old: notAskedLately(m.askedAt, scope.now) }]];
          }),
        ),
        behind: shown.filter((id) => own.get(id)?.level === 'not yet').length,
      };
    }),
    groups: groups.map(byIds),
    alone: alone.map(byIds),
    pairs: pairs.map(({ outcome, helper, helped }) => ({ outcome, members: [helper.id, helped.id] })),
  };
}
