import { addDays, startOfDay } from '@/core/calendar/zone';
import { waitsForGrade } from '@/core/tables/gradeFilters';
import { dueFor, isLate } from '@/core/gradebook/status';
import { DAY_MS } from '@/core/units';
import {
  isPeopleList,
  LISTS,
  WORK_LISTS,
  type ListName,
  type ListsView,
  type PeopleList,
  type RosterLine,
  type WorkLine,
  type WorkList,
} from '@/core/views/lists';
import { rowPerson, type RosterEntry } from '@/core/views/rosterEntry';
import { groupAudience, type ScopeView } from '@/core/views/scope';
import type { CourseModel } from '@/data/queries/courseModel';
import type { FullScore } from '@/data/queries/scores';
import { cellStatus, joinedAt } from '../snapshot/cellStatus';
import { gradebookColumns } from './gradebook';
import { mapKeys } from '@/core/mapKeys';
import { subjectsOf } from '../snapshot/subjects';
import { roster } from '../snapshot/roster';
import { type AskedScope } from './scope';
import { type Viewer } from '../access/viewer';
import { EVERYONE, meantBy, byName } from '@/core/people/audience';
import { openView, type Opened } from './frame';

export interface AskedList extends AskedScope {
  readonly list?: string;
  readonly due?: string;
}

/** A list of assignments or people in a scope, with how long the others are. */
export async function listsView(viewer: Viewer, code: string, asked: AskedList): Promise<ListsView> {
  const opened = await openView(viewer, code, asked, { evaluated: true });
  const { row, snapshot, course, scope, people, frame } = opened;
  const list: ListName = LISTS.find((l) => l === asked.list) ?? 'missing';
  const dueInWindow = asked.due === 'window';
  const lines = workLines(course, await snapshot.scores(), scope, people, dueInWindow);
  const everybody = await rosterLines(opened, await roster(row.id));
  const absent = await absentIn(opened);
  const works = mapKeys(WORK_LISTS, (l) => lines.filter((line) => belongs(line, l)));
  const persons: Record<PeopleList, RosterLine[]> = {
    roster: everybody,
    contacts: everybody.filter((p) => p.status === 'active'),
    'not-seen': everybody.filter((p) => absent.has(p.enrolmentId)),
    'joined-left': everybody.filter(
      (p) => p.status !== 'active' || (p.joined != null && p.joined > row.termStart),
    ),
  };
  return {
    ...frame,
    list,
    dueInWindow,
    counts: mapKeys(LISTS, (l) => (isPeopleList(l) ? persons[l] : works[l]).length),
    works: isPeopleList(list) ? [] : works[list],
    people: isPeopleList(list) ? persons[list] : [],
  };
}

/** Active students of whom nothing is recorded in the window. */
async function absentIn({ snapshot, scope, people }: Opened): Promise<ReadonlySet<number>> {
  const ids = people.map((p) => p.enrolmentId);
  const subjects = await subjectsOf(snapshot, ids, null);
  return new Set(subjects.flatMap((s) => (s.figures!(scope.window, null)!.days === 0 ? [s.id] : [])));
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
        ...rowPerson(person),
        activityId: activity.id,
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
  { snapshot, scope, frame }: Opened,
  all: readonly RosterEntry[],
): Promise<RosterLine[]> {
  // Those who have left stay on the roster of the whole course and of their section.
  const audience = scope.group === 'selection' ? EVERYONE : groupAudience(scope, all, frame.tray);
  const people = meantBy(audience, all, byName);
  if (people.length === 0) return [];
  const measured = await snapshot.measures();
  return people.map((p) => ({
    ...rowPerson(p),
    email: p.email,
    status: p.status,
    joined: p.joined,
    left: p.left,
    lastSeen: measured.get(p.enrolmentId)?.rhythm.lastSeen ?? null,
    missing: measured.get(p.enrolmentId)?.completion.missing.length ?? null,
    standing: measured.get(p.enrolmentId)?.standing.standing ?? null,
  }));
}
