import { and, desc, eq, isNull, sql } from 'drizzle-orm';
import { listed } from '@/core/format';
import { groupBy } from '@/core/groupBy';
import { isAtRandom, isTooQuick, type ItemNorm } from '@/core/items/effort';
import { answerGrid } from '@/core/items/grid';
import { leansOfStudents } from '@/core/items/lean';
import { lookAtQuiz } from '@/core/items/look';
import type { Keys } from '@/core/items/rekey';
import { sittingOf, type RecordedAnswer } from '@/core/items/sittings';
import { sameKeys, type ItemKey } from '@/core/items/treatment';
import type { ItemGridRow, ItemsView, KnownItem, QuizChoice, StudentLean } from '@/core/views/items';
import { rowPerson, type RosterEntry } from '@/core/views/rosterEntry';
import type { Access } from '@/data/database';
import { idsIn } from '@/data/queries/idsIn';
import { readItemNorms, readWrongNumbers } from '@/data/queries/learning';
import {
  answersTo,
  itemsOf,
  recordedAnswers,
  whoAnswered,
  type ItemRow,
  type TimedAnswer,
} from '@/data/queries/responses';
import type { CourseRow } from '@/data/queries/courseModel';
import { enrolments, itemChanges, itemQuestions, user } from '@/data/schema';
import { database } from '../base/database';
import { mayIn, type Viewer } from '../access/viewer';
import { openView } from './frame';
import { type AskedScope } from './scope';

/** What an address asks of the items. */
export interface AskedItems extends AskedScope {
  readonly work?: number;
  /** `students` for the answers of each student. */
  readonly tab?: string | null;
}

/** The items of a quiz and their answers; without one asked for, of the latest that is over. */
export async function itemsView(viewer: Viewer, code: string, asked: AskedItems): Promise<ItemsView> {
  const { course, people, scope, frame } = await openView(viewer, code, asked);
  const db = await database();
  const shown = new Map(people.map((p) => [p.enrolmentId, p.name]));
  const ids = course.activities.map((a) => a.id);
  const answered = await whoAnswered(db, ids);
  const sat = groupBy(
    answered.filter((r) => shown.has(r.student)),
    (r) => r.work,
  );
  const quizzes = course.activities
    .filter((a) => sat.has(a.id))
    .sort((a, b) => (b.dueAt?.getTime() ?? 0) - (a.dueAt?.getTime() ?? 0))
    .map(({ id, title, keyShown }): QuizChoice => ({ id, title, students: sat.get(id)!.length, keyShown }));
  const over = new Set(
    course.activities.flatMap((a) => (a.dueAt != null && a.dueAt.getTime() <= scope.now ? [a.id] : [])),
  );
  // Of one that is still open only some answers are there.
  const quiz =
    quizzes.find((q) => q.id === asked.work) ?? quizzes.find((q) => over.has(q.id)) ?? quizzes[0] ?? null;
  const rows = quiz ? (await answersTo(db, quiz.id)).filter((r) => shown.has(r.student)) : [];
  const stored = quiz ? await itemsOf(db, quiz.id) : [];
  const norms = quiz ? await readItemNorms(db, quiz.id) : new Map<string, ItemNorm>();
  const sitting = sittingOf(rows, keysOf(stored));
  const questions = await openQuestions(
    db,
    quizzes.map((q) => q.id),
    shown,
  );
  const quick = rows.filter((r) => isTooQuick(r.seconds, norms.get(r.item)));
  return {
    ...frame,
    quizzes,
    quiz,
    look: lookAtQuiz(sitting),
    unscored: sitting.unscored,
    dropped: sitting.dropped,
    known: knownItems(stored, sitting.items),
    changes: quiz ? await changesOf(db, quiz.id) : [],
    mayGrade: await mayIn(viewer, 'grade', course.row.id),
    quick: { students: [...new Set(quick.map((r) => r.student))], answers: quick.length },
    random: atRandom(rows, norms),
    asks: [
      ...groupBy(
        questions.filter((q) => q.work === quiz?.id),
        (q) => q.item,
      ),
    ].map(([item, own]) => ({ item, students: own.map((q) => q.student) })),
    asksElsewhere: quizzes.flatMap(({ id, title }) => {
      const own = new Set(questions.flatMap((q) => (q.work === id && id !== quiz?.id ? [q.student] : [])));
      return own.size === 0 ? [] : [{ id, title, students: own.size }];
    }),
    grid: quiz && asked.tab === 'students' ? gridRows(people, await recordedAnswers(db, quiz.id), norms) : [],
    names: Object.fromEntries(sitting.students.map((id) => [id, shown.get(id)!])),
  };
}

const keysOf = (stored: readonly ItemRow[]): Keys => new Map(stored.map((i) => [i.item, i]));

/** What is known of each item that was answered: what was told of it, or else what its answers say is right. */
function knownItems(
  stored: readonly ItemRow[],
  sat: ReturnType<typeof sittingOf>['items'],
): Record<string, KnownItem> {
  const keys = new Map(sat.map((i) => [i.item, i.keys ?? []]));
  const known = stored.map(({ item, stem, options, explanation, treatment, rev, keys: own }) => ({
    item,
    of: { stem, options, explanation, treatment, rev, keys: own ?? keys.get(item) ?? [] },
  }));
  const told = new Set(stored.map((i) => i.item));
  const others = sat
    .filter((i) => !told.has(i.item))
    .map(({ item, keys: own = [] }) => ({
      item,
      of: { stem: null, options: [], explanation: null, treatment: 'scored' as const, rev: 0, keys: own },
    }));
  return Object.fromEntries([...known, ...others].map(({ item, of }) => [item, of]));
}

/** Students with a sitting whose answers have no relation to the items. */
function atRandom(rows: readonly TimedAnswer[], norms: ReadonlyMap<string, ItemNorm>): number[] {
  const scored = rows.flatMap((r) => {
    const norm = norms.get(r.item);
    return r.score == null || !norm ? [] : [{ ...r, score: r.score, norm }];
  });
  const sets = groupBy(scored, (r) => `${r.student} ${r.attempt}`);
  return [...new Set([...sets.values()].flatMap((set) => (isAtRandom(set) ? [set[0]!.student] : [])))];
}

function gridRows(
  people: readonly RosterEntry[],
  rows: readonly RecordedAnswer[],
  norms: ReadonlyMap<string, ItemNorm>,
): ItemGridRow[] {
  const grid = answerGrid(rows, norms);
  const asked = new Set(rows.map((r) => r.item)).size;
  return people.flatMap((person) => {
    const cells = grid.get(person.enrolmentId);
    if (!cells) return [];
    const right = Object.values(cells).filter((c) => c.first != null && c.first >= 1).length / asked;
    return [{ ...rowPerson(person), right, cells }];
  });
}

/** Whose wrong numbers lean to one side, over all assignments of a course. */
export async function leansIn(viewer: Viewer, code: string, asked: AskedScope): Promise<StudentLean[]> {
  const { course, people } = await openView(viewer, code, asked);
  const nameOf = new Map(people.map((p) => [p.enrolmentId, p.name]));
  return leansOfStudents(await readWrongNumbers(await database(), course.row.id)).flatMap((l) => {
    const name = nameOf.get(l.student);
    return name == null ? [] : [{ ...l, name }];
  });
}

/** Who does not see why an answer is right, in any quiz. */
async function openQuestions(
  { orm }: Access,
  activityIds: readonly number[],
  shown: ReadonlyMap<number, string>,
) {
  if (activityIds.length === 0) return [];
  const rows = await orm
    .select({ work: itemQuestions.activityId, item: itemQuestions.item, student: itemQuestions.enrolmentId })
    .from(itemQuestions)
    .where(and(idsIn(itemQuestions.activityId, activityIds), isNull(itemQuestions.handledAt)))
    .orderBy(itemQuestions.at);
  return rows.filter((r) => shown.has(r.student));
}

/** How many words of students who do not see why wait in a course. */
export async function questionsOpen(course: Pick<CourseRow, 'id'>): Promise<number> {
  const { orm } = await database();
  const [row] = await orm
    .select({ n: sql`count(*)`.mapWith(Number) })
    .from(itemQuestions)
    .innerJoin(enrolments, eq(enrolments.id, itemQuestions.enrolmentId))
    .where(
      and(
        eq(enrolments.courseId, course.id),
        eq(enrolments.status, 'active'),
        isNull(itemQuestions.handledAt),
      ),
    );
  return row!.n;
}

/** What a change did, in words. */
function changeWords(before: ItemKey, after: ItemKey): string {
  if (before.treatment !== after.treatment) {
    if (after.treatment === 'dropped') return 'dropped, it counts for nobody';
    if (after.treatment === 'given') return 'everybody has the point';
    return 'counts again';
  }
  if (sameKeys(before.keys, after.keys)) return 'as it was';
  const added = (after.keys ?? []).filter((k) => !before.keys?.includes(k));
  const gone = (before.keys ?? []).filter((k) => !after.keys?.includes(k));
  if (gone.length === 0) return `${listed(added.map((k) => `“${k}”`))} is right, too`;
  return `the key is ${listed((after.keys ?? []).map((k) => `“${k}”`))}, no longer ${listed(gone.map((k) => `“${k}”`))}`;
}

async function changesOf({ orm }: Access, activityId: number): Promise<ItemsView['changes']> {
  const rows = await orm
    .select({ change: itemChanges, by: user.name })
    .from(itemChanges)
    .leftJoin(user, eq(user.id, itemChanges.userId))
    .where(eq(itemChanges.activityId, activityId))
    .orderBy(desc(itemChanges.id));
  const seen = new Set<string>();
  return rows.map(({ change, by }) => {
    const undone = change.undoneAt != null;
    const canUndo = !undone && !seen.has(change.item);
    if (!undone) seen.add(change.item);
    return {
      id: change.id,
      item: change.item,
      at: change.at.getTime(),
      by,
      words: changeWords(change.before, change.after),
      moved: change.moved,
      undone,
      canUndo,
    };
  });
}
