import { asc, eq, getTableColumns, getViewSelectedFields, isNull, sql } from 'drizzle-orm';
import type { Access, Database } from '@/data/database';
import {
  activityDays,
  activityTotals,
  courseDwells,
  courses,
  dayTotals,
  enrolments,
  sessions,
  studentDwells,
} from '@/data/schema';
import { deriveActivity } from '../derive/activity';
import { loadCourseModel } from '@/data/queries/courseModel';
import { deriveBehind } from '../xapi/follow';
import { underLock } from '@/data/write/underLock';

export interface Checked {
  readonly course: string;
  readonly events: number;
  /** Students whose events came in last and are not derived yet: the next start does it. */
  readonly behind: number;
  /** Tables whose rows are not those that a rebuild gives. */
  readonly differing: readonly string[];
}

/** Thrown to take a rebuild back that was only made to compare. */
class Compared extends Error {
  constructor(
    readonly behind: number,
    readonly differing: readonly string[],
  ) {
    super('compared');
  }
}

/** Whether the derived rows of each course, brought up to date, are those of a rebuild. Nothing is changed. */
export async function checkDerived(db: Database): Promise<Checked[]> {
  const all = await db.orm
    .select({ id: courses.id, code: courses.code })
    .from(courses)
    .where(isNull(courses.forImport))
    .orderBy(asc(courses.id));
  const checked: Checked[] = [];
  for (const { id, code } of all) {
    const [row] = (
      (await db.orm.execute(
        sql`select count(*) as n from events_now where course_id = ${id}`,
      )) as unknown as {
        rows: { n: string | number }[];
      }
    ).rows;
    let [waits, differing]: [number, readonly string[]] = [0, []];
    try {
      await underLock(db, id, async (tx) => {
        const late = await deriveBehind(tx, id);
        const before = await derivedRows(tx, id);
        await deriveActivity(tx, await loadCourseModel(tx, id), null);
        const after = await derivedRows(tx, id);
        throw new Compared(
          late,
          [...before.keys()].filter((name) => before.get(name) !== after.get(name)),
        );
      });
    } catch (error) {
      if (!(error instanceof Compared)) throw error;
      ({ behind: waits, differing } = error);
    }
    checked.push({ course: code, events: Number(row?.n ?? 0), behind: waits, differing });
  }
  return checked;
}

async function derivedRows({ orm }: Access, courseId: number): Promise<Map<string, string>> {
  const found = new Map<string, string>();
  const tables = { sessions, dayTotals, activityDays, activityTotals, studentDwells };
  for (const [name, table] of Object.entries(tables)) {
    const rows = await orm
      .select({
        row:
          table === studentDwells
            ? getTableColumns(studentDwells)
            : getViewSelectedFields(table as typeof sessions),
      })
      .from(table)
      .innerJoin(enrolments, eq(enrolments.id, table.enrolmentId))
      .where(eq(enrolments.courseId, courseId));
    found.set(
      name,
      rows
        .map((r) => JSON.stringify(r.row))
        .sort()
        .join('\n'),
    );
  }
  const counts = await orm.select().from(courseDwells).where(eq(courseDwells.courseId, courseId));
  found.set(
    'courseDwells',
    counts
      .map((r) => JSON.stringify(r))
      .sort()
      .join('\n'),
  );
  return found;
}
