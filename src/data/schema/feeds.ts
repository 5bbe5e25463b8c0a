import { index, integer, jsonb, pgTable, text } from 'drizzle-orm/pg-core';
import type { FeedFileState, FeedKind, FeedSwitch } from '@/core/feeds/feed';
import type { FeedDays } from '@/core/feeds/schedule';
import { user } from './auth';
import { at } from './columns';
import { ofCourse } from './courses';
import { uploads } from './uploads';

/** Files of a course that come by themselves. */
export const feeds = pgTable(
  'feeds',
  {
    id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
    courseId: ofCourse(),
    /** In whose name they go in. */
    userId: text('user_id')
      .notNull()
      .references(() => user.id, { onDelete: 'cascade' }),
    name: text('name').notNull(),
    kind: text('kind').$type<FeedKind>().notNull(),
    /** The folder within that of the course, or the link; empty for an address, which follows from the id. */
    place: text('place').notNull(),
    days: text('days').$type<FeedDays>().notNull(),
    minute: integer('minute').notNull(),
    state: text('state').$type<FeedSwitch>().notNull(),
    /** Why nothing came at the last look, or nothing goes in. */
    why: text('why'),
    /** When nothing came although it was time. */
    missedAt: at('missed_at'),
    cameAt: at('came_at'),
    /** How the last file that went in looked; null before the first. Checked when read. */
    shape: jsonb('shape').$type<unknown>(),
    /** How a table of a foreign make is read. Checked when read. */
    mapping: jsonb('mapping').$type<unknown>(),
    /** Files of the folder that were taken. Checked when read. */
    marks: jsonb('marks').$type<unknown>().notNull(),
    createdAt: at('created_at').notNull(),
  },
  (t) => [index('feeds_course').on(t.courseId)],
);

/** Files that came by themselves, and what became of each. */
export const feedFiles = pgTable(
  'feed_files',
  {
    id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
    feedId: integer('feed_id')
      .notNull()
      .references(() => feeds.id, { onDelete: 'cascade' }),
    uploadId: text('upload_id').references(() => uploads.id, { onDelete: 'set null' }),
    name: text('name').notNull(),
    /** SHA-256 of its content. */
    hash: text('hash').notNull(),
    at: at('at').notNull(),
    state: text('state').$type<FeedFileState>().notNull(),
    /** Checked when read. */
    counts: jsonb('counts').$type<unknown>(),
    /** Why somebody has to look at it first. Checked when read. */
    reasons: jsonb('reasons').$type<unknown>().notNull(),
  },
  (t) => [index('feed_files_feed').on(t.feedId), index('feed_files_upload').on(t.uploadId)],
);
