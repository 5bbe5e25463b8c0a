import { and, desc, eq, sql } from 'drizzle-orm';
import * as yup from 'yup';
import type { Agent } from '@/core/formats/xapi/statement';
import { seenStatements as statements } from '@/data/schema';
import { database } from '../base/database';

/** Names of one agent that are looked for. */
const MOST_NAMES = 20;

const nameSchema = yup.string().required();
const definitionSchema = yup.object().required();

/**
 * An agent as a person (part three, 2.4.1): each property is a list. Of other identifiers of theirs nothing is said: a
 * key may know those that it sent, no more.
 */
export async function personOf(
  courseId: number,
  { key, ...agent }: Agent & { readonly key: string },
): Promise<Record<string, unknown>> {
  const { orm } = await database();
  const name = sql`${statements.statement} #>> '{actor,name}'`;
  const rows = await orm
    .selectDistinct({ name })
    .from(statements)
    .where(and(eq(statements.courseId, courseId), eq(statements.actor, key), sql`${name} is not null`))
    .limit(MOST_NAMES);
  const names = [...rows.map((r) => nameSchema.validateSync(r.name)), ...(agent.name ? [agent.name] : [])];
  return {
    objectType: 'Person',
    ...(names.length > 0 ? { name: [...new Set(names)] } : {}),
    ...(agent.mbox ? { mbox: [agent.mbox] } : {}),
    ...(agent.mbox_sha1sum ? { mbox_sha1sum: [agent.mbox_sha1sum] } : {}),
    ...(agent.openid ? { openid: [agent.openid] } : {}),
    ...(agent.account ? { account: [agent.account] } : {}),
  };
}

/** An activity with its definition as the latest statement that has one gives it (part three, 2.5). */
export async function activityOf(courseId: number, id: string): Promise<Record<string, unknown>> {
  const { orm } = await database();
  const definition = sql`${statements.statement} #> '{object,definition}'`;
  const [row] = await orm
    .select({ definition })
    .from(statements)
    .where(
      and(
        eq(statements.courseId, courseId),
        eq(statements.activity, id),
        eq(statements.voided, false),
        sql`${definition} is not null`,
      ),
    )
    .orderBy(desc(statements.place))
    .limit(1);
  const known = row === undefined ? undefined : definitionSchema.validateSync(row.definition);
  return { objectType: 'Activity', id, ...(known === undefined ? {} : { definition: known }) };
}
