import { readStatement, type SpokenVersion, type Statement } from '@/core/formats/xapi/statement';
import { now } from '../base/clock';
import { database } from '../base/database';
import { invalid } from '../base/errors';
import { NO_BYTES, type Bytes } from './attachments';
import type { Sender } from './credentials';
import { wakeRunner } from '../jobs/queue';
import { followSoon } from './follow';
import { namesOf } from './people';
import { storeStatements } from './store';
import { underLock } from '@/data/write/underLock';

/** The version of who does not say one. */
const VERSION: SpokenVersion = '1.0.3';
/** Statements that a request may carry. */
const MOST_STATEMENTS = 1000;

/** Checks statements as they came, all of them. Throws the first fault, with the place of the statement. */
export function checkStatements(body: unknown, version: SpokenVersion = VERSION): Statement[] {
  const list: unknown[] = Array.isArray(body) ? body : [body];
  if (list.length > MOST_STATEMENTS) throw invalid(`Send at most ${MOST_STATEMENTS} statements at once.`);
  return list.map((item, i) => {
    const where = list.length > 1 ? `Statement ${i + 1}: ` : '';
    const read = readStatement(item, version);
    if (!read.ok) throw invalid(`${where}${read.reason}.`);
    return read.value;
  });
}

/**
 * Stores a batch of checked statements: acknowledged once committed, derived soon after. Returns their ids.
 *
 * @param bytes attachments that came beside them, checked
 */
export async function receiveStatements(
  sender: Sender,
  list: readonly Statement[],
  version: SpokenVersion = VERSION,
  bytes: Bytes = NO_BYTES,
): Promise<readonly string[]> {
  const db = await database();
  const stored = await underLock(db, sender.courseId, async (tx) => {
    const names = await namesOf(tx, sender.courseId, db);
    const taken = await storeStatements(
      tx,
      {
        courseId: sender.courseId,
        names,
        received: now(),
        authority: sender.key,
        importId: null,
        version,
        bytes,
      },
      list,
    );
    if (taken.added > 0) await followSoon(tx, sender.courseId);
    return taken;
  });
  wakeRunner();
  return stored.ids;
}
