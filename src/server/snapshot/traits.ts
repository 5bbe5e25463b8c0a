import { asc, eq } from 'drizzle-orm';
import { eachWorkDay } from '@/core/activity/workDays';
import { addDays, localDate, startOfDay } from '@/core/calendar/zone';
import { isResource } from '@/core/course/kinds';
import { bookSince } from '@/core/course/bookSince';
import { isLate } from '@/core/gradebook/status';
import { standingNow } from '@/core/gradebook/standing';
import { measureOf } from '@/core/measures/registry';
import { audienceMembers, keysIn, type TraitCells } from '@/core/people/savedAudience';
import { traitOf, type Trait } from '@/core/people/trait';
import type { ClassAbout } from '@/core/people/traitAbout';
import { groupBy } from '@/core/groupBy';
import { planState, plansState, type PlanState } from '@/core/plans/planState';
import type { StudentMeasures } from '@/core/measures/studentMeasures';
import type { Instant, LocalDate } from '@/core/units';
import type { RosterEntry } from '@/core/views/rosterEntry';
import type { Access } from '@/data/database';
import { audiencesOf, type NamedAudience } from '@/data/queries/audiences';
import type { CourseModel } from '@/data/queries/courseModel';
import { groupsIn } from '@/data/queries/parts';
import { lastAnswered } from '@/data/queries/replies';
import { lastWritten, withUnread } from '@/data/queries/writtenTo';
import { outcomes } from '@/data/schema';
import { now } from '../base/clock';
import { database } from '../base/database';
import { once } from '../base/once';
import { cellStatus, joinedAt } from './cellStatus';
import { tickedPlans } from './tickedPlans';
import { roster } from './roster';
import type { Snapshot } from './snapshot';
import { goalsIn } from './goals';
import { subjectsOf } from './subjects';

/** A class by what its students can be chosen by. */
export interface ClassTraits {
  readonly about: ClassAbout;
  /** Its active students, by family name: the order of all cells. */
  readonly people: readonly RosterEntry[];
  readonly audiences: readonly NamedAudience[];
  /** The cells of a trait by its key; of what is not there (any more), nothing is known. */
  readonly cells: (key: string) => Promise<TraitCells>;
  /** Who is in a saved audience, or in one that is not saved yet. */
  readonly members: (audience: Pick<NamedAudience, 'where' | 'added' | 'removed'>) => Promise<{
    readonly match: readonly number[];
    readonly unknown: readonly number[];
  }>;
}

/** Of whom, and as of when, traits are read. */
export interface AsOf {
  /** As of now, if left out. What is kept only as it stands (plans, messages, outcomes, groups) is as it stands. */
  readonly at?: Instant;
  /** What was found of the students as of then; if left out, by the last evaluation. */
  readonly measured?: () => Promise<ReadonlyMap<number, StudentMeasures>>;
  /** These students alone; then no place in the class may be asked for. */
  readonly only?: readonly number[];
}

/** What the students of a course can be chosen by; each trait is computed when it is asked for. */
export async function classTraits(snapshot: Snapshot, asOf: AsOf = {}): Promise<ClassTraits> {
  const course = await snapshot.model();
  const db = await database();
  const people = (await roster(course.row.id, asOf.only)).filter((p) => p.status === 'active');
  const saved = await audiencesOf(db, course.row.id);
  const grouped = await groupsIn(db, course.row.id);
  const about = await classAbout(db, course, grouped, saved);
  const cells = new Map<string, Promise<TraitCells>>();
  const sources = sourcesOf(snapshot, course, people, asOf);

  const read = async (key: string, within: ReadonlySet<number>): Promise<TraitCells> => {
    const trait = traitOf(key);
    if (!trait) return people.map(() => null);
    if (trait.of === 'audience') {
      const audience = saved.find((a) => a.id === trait.audience);
      // One that rests on itself is known of nobody; saving refuses it.
      if (!audience || within.has(audience.id)) return people.map(() => null);
      const found = await membersOf(audience, new Set([...within, audience.id]));
      const [match, unknown] = [new Set(found.match), new Set(found.unknown)];
      return people.map(({ enrolmentId: id }) => (match.has(id) ? 'yes' : unknown.has(id) ? null : 'no'));
    }
    if (trait.of === 'group') {
      const members = grouped.find((g) => g.id === trait.group)?.members;
      return people.map((p) => (members ? (members.has(p.enrolmentId) ? 'yes' : 'no') : null));
    }
    return sources(trait);
  };
  const cellsOf = (key: string, within: ReadonlySet<number> = new Set()): Promise<TraitCells> => {
    // What rests on an audience depends on the way there.
    if (within.size > 0 && key.startsWith('audience:')) return read(key, within);
    let found = cells.get(key);
    if (!found) cells.set(key, (found = read(key, within)));
    return found;
  };
  const membersOf = async (
    audience: Pick<NamedAudience, 'where' | 'added' | 'removed'>,
    within: ReadonlySet<number> = new Set(),
  ) => {
    const columns = new Map<string, TraitCells>();
    for (const key of keysIn(audience.where)) columns.set(key, await cellsOf(key, within));
    return audienceMembers(
      audience,
      people.map((p) => p.enrolmentId),
      (key) => columns.get(key)!,
    );
  };
  return { about, people, audiences: saved, cells: (key) => cellsOf(key), members: (a) => membersOf(a) };
}

async function classAbout(
  { orm }: Access,
  course: CourseModel,
  grouped: readonly { readonly id: number; readonly name: string }[],
  saved: readonly NamedAudience[],
): Promise<ClassAbout> {
  const learned = await orm
    .select({ id: outcomes.id, title: outcomes.title })
    .from(outcomes)
    .where(eq(outcomes.courseId, course.row.id))
    .orderBy(asc(outcomes.position), asc(outcomes.id));
  return {
    works: course.activities
      .filter((a) => !isResource(a.kind))
      .map(({ id, title, points }) => ({ id, title, points })),
    sections: course.sections.map((s) => s.name),
    groups: grouped.map(({ id, name }) => ({ id, name })),
    outcomes: learned,
    audiences: saved.map(({ id, name }) => ({ id, name })),
  };
}

type Read = Exclude<Trait, { of: 'audience' | 'group' }>;

/** Reads the cells of a trait from what is known of a course. */
function sourcesOf(
  snapshot: Snapshot,
  course: CourseModel,
  people: readonly RosterEntry[],
  { at = now(), measured }: AsOf,
): (trait: Read) => Promise<TraitCells> {
  const ids = people.map((p) => p.enrolmentId);
  const { zone } = course.row;
  const today = localDate(at, zone);
  const subjects = once(async () => {
    const { nextOf } = await goalsIn(snapshot, at);
    const found = await subjectsOf(snapshot, ids, null, { whole: true, measured: await measured?.() });
    return found.map((s) => ({ ...s, goal: nextOf(s.id) }));
  });
  const plans = once(() => planStates(snapshot, ids, today));
  const written = once(async () => lastWritten(await database(), course.row.id));
  const answers = once(async () => lastAnswered(await database(), course.row.id));
  const unread = once(async () => withUnread(await database(), course.row.id));
  const lastDays = (days: number) => ({ from: addDays(today, 1 - days), to: today });

  return async (trait) => {
    const each = (cell: (person: RosterEntry, i: number) => string | number | null): TraitCells =>
      people.map(cell);
    switch (trait.of) {
      case 'measure': {
        const measure = measureOf(trait.measure);
        const window = trait.days == null ? undefined : { ...lastDays(trait.days), before: null };
        // The standing is as the gradebook has it, not as of the last evaluation.
        if (trait.measure === 'standing') {
          const scores = await snapshot.scores();
          return each((p) =>
            standingNow(bookSince(course, joinedAt(course, p)), scores.get(p.enrolmentId) ?? new Map(), at),
          );
        }
        const all = await subjects();
        return each((_, i) => measure.value(all[i]!, { window }));
      }
      case 'score':
      case 'percent':
      case 'status':
      case 'late': {
        const activity = course.activities.find((a) => a.id === trait.work);
        if (!activity) return each(() => null);
        const scores = await snapshot.scores();
        return each((person) => {
          const score = scores.get(person.enrolmentId)?.get(String(activity.id));
          const status = cellStatus(activity, score, joinedAt(course, person), at);
          if (trait.of === 'status') return status;
          if (trait.of === 'late')
            return isLate({ due: activity.dueAt?.getTime() ?? null }, score, at) ? 'yes' : 'no';
          if (status !== 'graded' || score?.points == null) return null;
          if (trait.of === 'score') return score.points;
          return activity.points ? (100 * score.points) / activity.points : null;
        });
      }
      case 'opened': {
        if (!course.activities.some((a) => a.id === trait.work)) return each(() => null);
        const days = await snapshot.workDays();
        return each(({ enrolmentId }) => {
          const own = days.get(enrolmentId);
          let opened = false;
          eachWorkDay(own, lastDays(trait.days), (row) => {
            if (own!.activity[row] === trait.work) opened = true;
          });
          return opened ? 'yes' : 'no';
        });
      }
      case 'flag': {
        const flags = await snapshot.flags();
        return each(
          ({ enrolmentId }) =>
            flags
              .get(enrolmentId)
              ?.find(
                (f) =>
                  f.kind === trait.flag && f.openedOn <= today && (f.closedOn == null || f.closedOn > today),
              )?.level ?? 'none',
        );
      }
      case 'outcome': {
        const learned = await snapshot.masteries();
        return each(({ enrolmentId }) => {
          const level = learned.get(enrolmentId)?.find((m) => m.outcomeId === trait.outcome)?.level;
          return level == null || level === 'too little data' ? null : level;
        });
      }
      case 'this':
        // Of an assignment that is nobody's here: rules know it.
        return each(() => null);
      case 'section':
        return each((p) => p.section);
      case 'plan': {
        const states = await plans();
        return each((p) => states.get(p.enrolmentId) ?? 'none');
      }
      case 'written': {
        const last = await written();
        const since = startOfDay(addDays(today, 1 - trait.days), zone);
        return each((p) => ((last.get(p.enrolmentId) ?? -Infinity) >= since ? 'yes' : 'no'));
      }
      case 'unanswered': {
        const [last, answered] = [await written(), await answers()];
        return each(({ enrolmentId: id }) => {
          const at = last.get(id);
          return at != null && (answered.get(id) ?? -Infinity) < at ? 'yes' : 'no';
        });
      }
      case 'unread': {
        const waiting = await unread();
        return each((p) => (waiting.has(p.enrolmentId) ? 'yes' : 'no'));
      }
    }
  };
}

/** How the study plans of students stand; who has none is not in it. */
async function planStates(
  snapshot: Snapshot,
  ids: readonly number[],
  today: LocalDate,
): Promise<Map<number, PlanState>> {
  const plans = groupBy(await tickedPlans(snapshot, ids), (p) => p.enrolmentId);
  return new Map([...plans].map(([id, own]) => [id, plansState(own.map((p) => planState(p, today)))]));
}
