import { and, eq, gt, or, sql, type SQL } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import { instantOf } from '@/core/formats/xapi/timestamp';
import { personKey } from '@/core/formats/xapi/person';
import type { Agent } from '@/core/formats/xapi/statement';
import { seenStatements as statements } from '@/data/schema';
import { agentIn } from './parameters';

/** What `GET /xapi/statements` may be asked for, beside how much of it and in which order. */
export interface Asked {
  readonly agent?: string;
  readonly verb?: string;
  readonly activity?: string;
  readonly registration?: string;
  readonly related_activities?: string;
  readonly related_agents?: string;
  readonly since?: string;
  readonly until?: string;
}

type Table = typeof statements;

/**
 * The conditions of a query (part three, 2.1.3). A statement about another statement meets those that are not about time
 * if the other meets them, voided or not; one step far, so that a chain of such statements is not followed.
 */
export function conditions(asked: Asked): SQL[] {
  const target = alias(statements, 'target');
  const about = sql`${statements.statement} #>> '{object,objectType}' = 'StatementRef'`;
  const where = contentConditions(asked).map((meets) => {
    const other = sql`exists (select 1 from ${statements} as target where ${and(
      eq(target.courseId, statements.courseId),
      sql`${target.id} = lower(${statements.statement} #>> '{object,id}')`,
      meets(target as unknown as Table),
    )})`;
    return or(meets(statements), and(sql`${statements.activity} is null`, about, other))!;
  });
  if (asked.since != null) where.push(gt(statements.stored, new Date(instantOf(asked.since))));
  if (asked.until != null)
    where.push(sql`${statements.stored} <= ${new Date(instantOf(asked.until)).toISOString()}`);
  return where;
}

function contentConditions(asked: Asked): ((of: Table) => SQL)[] {
  const { agent, verb, activity, registration } = asked;
  const all: ((of: Table) => SQL)[] = [];
  if (agent != null) {
    const who = agentIn(agent);
    all.push((of) => isAgent(of, who, asked.related_agents === 'true'));
  }
  if (verb != null) all.push((of) => eq(of.verb, verb));
  if (activity != null) {
    const related = asked.related_activities === 'true';
    all.push((of) =>
      related
        ? or(eq(of.activity, activity), holds(of, RELATED_ACTIVITIES, sql`found #>> '{}' = ${activity}`))!
        : eq(of.activity, activity),
    );
  }
  if (registration != null) all.push((of) => eq(of.registration, registration.toLowerCase()));
  return all;
}

const RELATED_ACTIVITIES = [
  '$.context.contextActivities.*[*].id',
  '$.object.object.id',
  '$.object.context.contextActivities.*[*].id',
];
const OBJECT = ['$.object'];
/** Everywhere else that an agent can stand. */
const RELATED_AGENTS = [
  '$.authority',
  '$.context.instructor',
  '$.context.team',
  '$.object.actor',
  '$.object.object',
  '$.object.context.instructor',
  '$.object.context.team',
];

/** Whether anything that stands at one of the paths of a statement, there under the name `found`, is as said. */
const holds = (of: Table, paths: readonly string[], isIt: SQL): SQL =>
  sql`exists (select 1 from unnest(${sql.param([...paths])}::text[]) as path,
    jsonb_path_query(${of.statement}, path::jsonpath) as found where ${isIt})`;

/** An agent is whoever has the same identifier; a group is also each of its members. */
function isAgent(of: Table, agent: Agent, related: boolean): SQL {
  const places = [...OBJECT, ...(related ? RELATED_AGENTS : [])];
  const paths = ['$.actor.member[*]', ...places.flatMap((place) => [place, `${place}.member[*]`])];
  const inside = and(mentions(of, agent), holds(of, paths, sameIdentifier(agent)))!;
  // What can be no more than its actor and an activity need not be opened.
  const opened = sql`(${of.activity} is null or ${of.statement} #>> '{actor,objectType}' = 'Group')`;
  return or(eq(of.actor, keyOf(agent)), related ? inside : and(opened, inside))!;
}

/** Whether an identifier stands anywhere in the text of a statement: quicker asked than every place of it. */
function mentions(of: Table, { mbox, mbox_sha1sum, openid, account }: Agent): SQL {
  const said = mbox ?? mbox_sha1sum ?? openid ?? account!.name;
  // What the text would write otherwise is looked for in its places only.
  return /^[\x20-\x7e]+$/.test(said) && !/["\\]/.test(said)
    ? sql`strpos(lower(${of.statement}::text), ${said.toLowerCase()}) > 0`
    : sql`true`;
}

function sameIdentifier(agent: Agent): SQL {
  if (agent.mbox) return sql`lower(found ->> 'mbox') = ${agent.mbox.toLowerCase()}`;
  if (agent.mbox_sha1sum) return sql`lower(found ->> 'mbox_sha1sum') = ${agent.mbox_sha1sum.toLowerCase()}`;
  if (agent.openid) return sql`found ->> 'openid' = ${agent.openid}`;
  return sql`found #>> '{account,homePage}' = ${agent.account!.homePage} and found #>> '{account,name}' = ${agent.account!.name}`;
}

const keyOf = (agent: Agent): string => personKey(agent) ?? '';
