import { and, eq, sql } from 'drizzle-orm';
import type { AheadView } from '@/core/views/live';
import { isAhead, seenStatements } from '@/data/schema';
import { database } from '../base/database';
import { requireCourse, type Viewer } from '../access/viewer';
import { OF_FILES } from './store';

/** Statements of a course that are dated more than a day after they came, by the source whose clock runs ahead. */
export async function aheadOfTime(viewer: Viewer, code: string): Promise<AheadView[]> {
  const course = await requireCourse(viewer, 'import', code);
  const { orm } = await database();
  const source = sql<string>`coalesce(${seenStatements.statement} #>> '{authority,account,name}', '')`;
  const rows = await orm
    .select({
      source,
      statements: sql<number>`count(*)`.mapWith(Number),
      furthest: sql<string>`extract(epoch from max(${seenStatements.at})) * 1000`,
    })
    .from(seenStatements)
    .where(and(eq(seenStatements.courseId, course.id), isAhead(seenStatements)))
    .groupBy(source)
    .orderBy(source);
  return rows.map((row) => ({
    source: row.source === OF_FILES ? 'a file' : row.source,
    statements: row.statements,
    furthest: Number(row.furthest),
  }));
}
