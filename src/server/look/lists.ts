import { eq } from 'drizzle-orm';
import { addDays, startOfDay } from '@/core/calendar/zone';
import { waitsForGrade } from '@/core/tables/gradeFilters';
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
import { groupAudience, type ScopeView } from '@/core/views/scope';
import { enrolments, persons } from '@/data/schema';
import { database } from '../base/database';
import type { CourseModel } from '@/data/queries/courseModel';
import type { FullScore } from '@/data/queries/scores';
import { cellStatus, gradebookColumns, joinedAt } from './gradebook';
import { roster } from '../snapshot/roster';
import { type AskedScope } from './scope';
import { type Viewer } from '../access/viewer';
import { EVERYONE, meantBy, byName } from '@/core/people/audience';
import { openView, type Opened } from './frame';

export interface AskedList extends AskedScope {
  readonly list?: string;
  readonly due?: string;
}

/** A list of works or people in a scope, with how long the others are. */
export async function listsView(viewer: Viewer, code: string, asked: AskedList): Promise<ListsView> {
  const opened = await openView(viewer, code, asked, { evaluated: true });
  const { row, snapshot, course, scope, people, frame } = opened;
  const list: ListName = LISTS.find((l) => l === asked.list) ?? 'missing';
  const dueInWindow = asked.due === 'window';
  const lines = workLines(course, await snapshot.scores(), scope, people, dueInWindow);
  const everybody = await rosterLines(opened, await roster(row.id));
  const of = (name: WorkList) => lines.filter((l) => belongs(l, name));
  return {
    ...frame,
    list,
    dueInWindow,
    counts: {
      ...(Object.fromEntries(WORK_LISTS.map((l) => [l, of(l).length])) as Record<WorkList, number>),
      roster: everybody.length,
    },
    works: list === 'roster' ? [] : of(list),
    roster: list === 'roster' ? everybody : [],
  };
}

interface Line extends WorkLine {
  readonly late: boolean;
}

const belongs = (line: Line, list: WorkList): boolean => {
  if (list === 'late') return line.late;
  if (list === 'awaiting') return waitsForGrade(line.status, line.maximum);
  return line.status === list;
};

function workLines(
  course: CourseModel,
  all: ReadonlyMap<number, ReadonlyMap<string, FullScore>>,
  scope: ScopeView,
  people: readonly RosterEntry[],
  dueInWindow: boolean,
): Line[] {
  const from = startOfDay(scope.window.from, course.term.zone);
  const until = startOfDay(addDays(scope.window.to, 1), course.term.zone);
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
      if (dueInWindow && (due == null || due < from || due >= until)) continue;
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
  { snapshot, course, scope, frame }: Opened,
  all: readonly RosterEntry[],
): Promise<RosterLine[]> {
  // Those who have left stay on the roster of the whole course and of their section.
  const audience = scope.group === 'selection' ? EVERYONE : groupAudience(scope, all, frame.tray);
  const people = meantBy(audience, all, byName);
  if (people.length === 0) return [];
  const { orm } = await database();
  const numbers = await orm
    .select({ id: enrolments.id, studentId: persons.externalId })
    .from(enrolments)
    .innerJoin(persons, eq(persons.id, enrolments.personId))
    .where(eq(enrolments.courseId, course.row.id));
  const numberOf = new Map(numbers.map((n) => [n.id, n.studentId]));
  const measured = await snapshot.measures();
  return people.map((p) => ({
    enrolmentId: p.enrolmentId,
    studentId: numberOf.get(p.enrolmentId) ?? '',
    given: p.given,
    family: p.family,
    email: p.email,
    section: p.section,
    status: p.status,
    joined: p.joined,
    lastSeen: measured.get(p.enrolmentId)?.rhythm.lastSeen ?? null,
    missing: measured.get(p.enrolmentId)?.completion.missing.length ?? null,
    standing: measured.get(p.enrolmentId)?.standing.standing ?? null,
  }));
}
