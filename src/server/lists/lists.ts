import { eq, inArray, sql } from 'drizzle-orm';
import { inSpan } from '@/core/calendar/window';
import { localDate } from '@/core/calendar/zone';
import { dueFor, isLate } from '@/core/gradebook/status';
import { DAY_MS } from '@/core/units';
import {
  LISTS,
  WORK_LISTS,
  type ListName,
  type ListsView,
  type RosterLine,
  type WorkLine,
  type WorkList,
} from '@/core/views/lists';
import type { RosterEntry } from '@/core/views/rosterEntry';
import type { ScopeView } from '@/core/views/scope';
import type { Access } from '@/data/database';
import { enrolments, measures, persons } from '@/data/schema';
import { courseHead } from '../courseHead';
import { database } from '../database';
import { loadCourseModel, type CourseModel } from '../derive/courseModel';
import { loadScores } from '../derive/scores';
import { ensureEvaluated } from '../evaluation';
import { cellStatus, gradebookColumns, joinedAt } from '../grading/gradebook';
import { termRibbon } from '../ribbon';
import { roster } from '../roster';
import { peopleOf, scopeOf, type AskedScope } from '../scope';
import { tray } from '../tray';
import { requireTaught, type Viewer } from '../viewer';

export interface AskedList extends AskedScope {
  readonly list?: string;
  readonly due?: string;
}

/** A list of works or people in a scope, with how long the others are. */
export async function listsView(viewer: Viewer, code: string, asked: AskedList): Promise<ListsView> {
  const row = await ensureEvaluated(await requireTaught(viewer, code));
  const db = await database();
  const scope = await scopeOf(viewer, row, asked);
  const people = await peopleOf(viewer, row, scope);
  const course = await loadCourseModel(db, row.id);
  const list: ListName = LISTS.find((l) => l === asked.list) ?? 'missing';
  const dueInWindow = asked.due === 'window';
  const lines = await workLines(db, course, scope, people, dueInWindow);
  const everybody = await rosterLines(db, course, scope, await roster(row.id));
  const of = (name: WorkList) => lines.filter((l) => belongs(l, name));
  return {
    course: courseHead(row),
    scope,
    ribbon: await termRibbon(row),
    list,
    dueInWindow,
    counts: {
      ...(Object.fromEntries(WORK_LISTS.map((l) => [l, of(l).length])) as Record<WorkList, number>),
      roster: everybody.length,
    },
    works: list === 'roster' ? [] : of(list),
    roster: list === 'roster' ? everybody : [],
    tray: (await tray(viewer, row)).map((t) => t.enrolmentId),
  };
}

interface Line extends WorkLine {
  readonly late: boolean;
}

const belongs = (line: Line, list: WorkList): boolean => {
  if (list === 'late') return line.late;
  if (list === 'awaiting') return line.status === 'awaiting grade' || line.status === 'late';
  return line.status === list;
};

async function workLines(
  db: Access,
  course: CourseModel,
  scope: ScopeView,
  people: readonly RosterEntry[],
  dueInWindow: boolean,
): Promise<Line[]> {
  const all = await loadScores(db, course.row.id);
  const { zone } = course.term;
  const columns = gradebookColumns(course).filter((a) => scope.kind == null || a.kind === scope.kind);
  const lines: Line[] = [];
  for (const person of people) {
    const joined = joinedAt(course, person);
    for (const activity of columns) {
      const score = all.get(person.enrolmentId)?.get(String(activity.id));
      const work = { due: activity.dueAt?.getTime() ?? null };
      const status = cellStatus(activity, score, joined, scope.now);
      const late = isLate(work, score, scope.now);
      if (!late && !['missing', 'excused', 'awaiting grade'].includes(status)) continue;
      const due = dueFor(work, score);
      if (dueInWindow && (due == null || !inSpan(scope.window, localDate(due, zone)))) continue;
      const since =
        status === 'missing' ? due : status === 'awaiting grade' ? (score?.submitted ?? null) : null;
      lines.push({
        enrolmentId: person.enrolmentId,
        activityId: activity.id,
        given: person.given,
        family: person.family,
        section: person.section,
        title: activity.title,
        due,
        submitted: score?.submitted ?? null,
        status,
        points: score?.points ?? null,
        maximum: activity.points,
        days:
          since != null
            ? Math.floor((scope.now - since) / DAY_MS)
            : late && due != null
              ? Math.ceil((score!.submitted! - due) / DAY_MS)
              : null,
        late,
      });
    }
  }
  return lines;
}

async function rosterLines(
  { orm }: Access,
  course: CourseModel,
  scope: ScopeView,
  all: readonly RosterEntry[],
): Promise<RosterLine[]> {
  const people = all.filter((p) => (typeof scope.group === 'number' ? p.sectionId === scope.group : true));
  const ids = people.map((p) => p.enrolmentId);
  if (ids.length === 0) return [];
  const numbers = await orm
    .select({ id: enrolments.id, studentId: persons.externalId })
    .from(enrolments)
    .innerJoin(persons, eq(persons.id, enrolments.personId))
    .where(eq(enrolments.courseId, course.row.id));
  const numberOf = new Map(numbers.map((n) => [n.id, n.studentId]));
  const measured = await orm
    .select({
      id: measures.enrolmentId,
      standing: measures.standing,
      lastSeen: sql<string | null>`${measures.measures} -> 'rhythm' ->> 'lastSeen'`,
      missing: sql<number>`jsonb_array_length(${measures.measures} -> 'completion' -> 'missing')`.mapWith(
        Number,
      ),
    })
    .from(measures)
    .where(inArray(measures.enrolmentId, ids));
  const of = new Map(measured.map((m) => [m.id, m]));
  return people.map((p) => ({
    enrolmentId: p.enrolmentId,
    studentId: numberOf.get(p.enrolmentId) ?? '',
    given: p.given,
    family: p.family,
    email: p.email,
    section: p.section,
    status: p.status,
    joined: p.joined,
    lastSeen: of.get(p.enrolmentId)?.lastSeen ?? null,
    missing: of.get(p.enrolmentId)?.missing ?? null,
    standing: of.get(p.enrolmentId)?.standing ?? null,
  }));
}
