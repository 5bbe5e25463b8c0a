import { readStatement, type Statement } from '@/core/formats/xapi/statement';
import { now } from '../clock';
import { database } from '../database';
import { lockCourse } from '../derive/courseModel';
import { invalid } from '../errors';
import type { Sender } from './credentials';
import { followSoon } from './follow';
import { namesOf } from './people';
import { storeStatements } from './store';

/** What a request may carry. */
export const STATEMENT_LIMITS = { bytes: 8 * 1024 * 1024, statements: 1000 } as const;

const SIGNATURE = 'http://adlnet.gov/expapi/attachments/signature';

/**
 * Checks statements as they came, all of them. Throws the first fault, with the place of the statement. Attachments
 * are taken only by address: their bytes, and signatures, have nowhere to go here.
 */
export function checkStatements(body: unknown): Statement[] {
  const list: unknown[] = Array.isArray(body) ? body : [body];
  if (list.length > STATEMENT_LIMITS.statements)
    throw invalid(`Send at most ${STATEMENT_LIMITS.statements} statements at once.`);
  return list.map((item, i) => {
    const where = list.length > 1 ? `Statement ${i + 1}: ` : '';
    const read = readStatement(item);
    if (!read.ok) throw invalid(`${where}${read.reason}.`);
    for (const attachment of read.value.attachments ?? []) {
      if (attachment.usageType === SIGNATURE) throw invalid(`${where}signed statements are not taken.`);
      if (!attachment.fileUrl)
        throw invalid(`${where}attachments are taken by fileUrl only, not with their bytes.`);
    }
    return read.value;
  });
}

/** Stores a batch of checked statements: acknowledged once committed, derived soon after. Returns their ids. */
export async function receiveStatements(
  sender: Sender,
  list: readonly Statement[],
): Promise<readonly string[]> {
  const db = await database();
  const stored = await db.transaction(async (tx) => {
    await lockCourse(tx, sender.courseId);
    const names = await namesOf(tx, sender.courseId, db);
    return storeStatements(
      tx,
      { courseId: sender.courseId, names, received: now(), authority: sender.key, importId: null },
      list,
    );
  });
  if (stored.added > 0) followSoon(sender.courseId);
  return stored.ids;
}
