import type { TypicalDwell } from '@/core/activity/dwell';
import type { Access } from '@/data/database';
import { studentDwells } from '@/data/schema';
import { idsIn } from './idsIn';

/** The typical dwells that the sessions of some students used, by place of the student in `ids` and kind. */
export async function readTypical({ orm }: Access, ids: readonly number[]): Promise<TypicalDwell> {
  const rows = await orm
    .select({ id: studentDwells.enrolmentId, typical: studentDwells.typical })
    .from(studentDwells)
    .where(idsIn(studentDwells.enrolmentId, ids));
  const known = new Map(rows.map((r) => [r.id, r.typical]));
  return (student, kind) => {
    const pairs = known.get(ids[student]!) ?? [];
    for (let i = 0; i < pairs.length; i += 2) if (pairs[i] === kind) return pairs[i + 1]!;
    return 0;
  };
}
