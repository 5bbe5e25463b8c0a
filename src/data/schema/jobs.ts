import { boolean, index, integer, jsonb, pgTable, text, uniqueIndex } from 'drizzle-orm/pg-core';
import { sql } from 'drizzle-orm';
import { user } from './auth';
import { at } from './columns';

export const JOB_KINDS = [
  'mail',
  'letter',
  'review',
  'follow',
  'evaluate',
  'rebuild',
  'import',
  'import every',
  'sweep',
  'rules',
  'dry run',
  'feed',
  'plans',
  'mail in',
] as const;
export type JobKind = (typeof JOB_KINDS)[number];

export const JOB_STATES = ['queued', 'running', 'done', 'failed', 'cancelled'] as const;
export type JobState = (typeof JOB_STATES)[number];

/** Work that goes on off the request that asked for it. Instants are those of the database's own clock. */
export const jobs = pgTable(
  'jobs',
  {
    id: text('id').primaryKey(),
    kind: text('kind').$type<JobKind>().notNull(),
    /** Checked when read. */
    payload: jsonb('payload').$type<unknown>().notNull(),
    /** Jobs of one key that have not begun are one job. */
    key: text('key'),
    /** Jobs of one line run one after the other, in whatever process. */
    line: text('line'),
    /** Who may ask after it; nobody but the log where nobody asked for it. */
    userId: text('user_id').references(() => user.id, { onDelete: 'cascade' }),
    state: text('state').$type<JobState>().notNull().default('queued'),
    runAt: at('run_at')
      .notNull()
      .default(sql`clock_timestamp()`),
    /** How often it has begun. */
    attempts: integer('attempts').notNull().default(0),
    /** The process that runs it, and until when that holds if it is not heard of again. */
    holder: text('holder'),
    heldUntil: at('held_until'),
    step: text('step').notNull().default(''),
    done: integer('done').notNull().default(0),
    of: integer('of').notNull().default(0),
    /** Somebody has asked it to stop. */
    cancelled: boolean('cancelled').notNull().default(false),
    result: jsonb('result').$type<unknown>(),
    /** Why it failed, or why it waits to be tried again. */
    message: text('message'),
    createdAt: at('created_at')
      .notNull()
      .default(sql`clock_timestamp()`),
    endedAt: at('ended_at'),
  },
  (t) => [
    uniqueIndex('jobs_key')
      .on(t.key)
      .where(sql`${t.state} = 'queued'`),
    uniqueIndex('jobs_line')
      .on(t.line)
      .where(sql`${t.state} = 'running'`),
    index('jobs_open')
      .on(t.runAt)
      .where(sql`${t.state} in ('queued', 'running')`),
    index('jobs_ended').on(t.endedAt),
  ],
);
