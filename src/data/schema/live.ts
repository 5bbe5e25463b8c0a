import { getTableColumns, sql, type SQL } from 'drizzle-orm';
import {
  boolean,
  foreignKey,
  index,
  integer,
  jsonb,
  pgTable,
  pgView,
  primaryKey,
  text,
  uniqueIndex,
  type AnyPgColumn,
} from 'drizzle-orm/pg-core';
import type { FileKind } from '@/core/course/records';
import { user } from './auth';
import { at, bytes } from './columns';
import { ofCourse } from './courses';
import { ofEnrolment, persons } from './people';
import { imports, isSeen } from './records';

/** Keys by which other systems send statements into a course. The secret is kept only as a hash. */
export const credentials = pgTable('credentials', {
  id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
  courseId: ofCourse(),
  label: text('label').notNull(),
  key: text('key').notNull().unique(),
  secretHash: text('secret_hash').notNull(),
  userId: text('user_id').references(() => user.id, { onDelete: 'set null' }),
  createdAt: at('created_at').notNull(),
  revokedAt: at('revoked_at'),
});

/** Whether a statement is dated more than a day after it came: the clock of its source runs ahead. */
export const isAhead = (t: { readonly at: AnyPgColumn; readonly stored: AnyPgColumn }): SQL =>
  sql`${t.at} - ${t.stored} > interval '24 hours'`;

/** Statements as they came in, for whoever asks for them back. */
export const statements = pgTable(
  'statements',
  {
    courseId: ofCourse(),
    id: text('id').notNull(),
    /** Order of arrival; also the mark that paging goes on from. */
    place: integer('place').notNull().generatedAlwaysAsIdentity(),
    stored: at('stored').notNull(),
    at: at('at').notNull(),
    /** Inverse functional identifier of the actor, like `mbox:a@b.example`. */
    actor: text('actor').notNull(),
    verb: text('verb').notNull(),
    activity: text('activity'),
    registration: text('registration'),
    /** The statement that this one voids. */
    voids: text('voids'),
    voided: boolean('voided').notNull().default(false),
    /** The import it came with; null if it came in live. */
    importId: integer('import_id'),
    /** In full, with what the store adds. */
    statement: jsonb('statement').$type<unknown>().notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.courseId, t.id] }),
    uniqueIndex('statements_place').on(t.place),
    index('statements_order').on(t.courseId, t.place),
    index('statements_actor').on(t.courseId, t.actor),
    index('statements_activity').on(t.courseId, t.activity),
    index('statements_import').on(t.courseId, t.importId),
    // Few clocks run ahead.
    index('statements_ahead').on(t.courseId).where(isAhead(t)),
    // Asked with every batch that comes in: whether one of it was voided before it came. Few ever void.
    index('statements_voids')
      .on(t.courseId, t.voids)
      .where(sql`${t.voids} is not null`),
  ],
);

/** Statements that are there for everybody: what is read, but by what writes them. */
export const seenStatements = pgView('statements_now').as((qb) =>
  qb.select(getTableColumns(statements)).from(statements).where(isSeen(statements)),
);

/** What came with statements as bytes, once however many statements name it. */
export const attachments = pgTable(
  'attachments',
  {
    courseId: ofCourse(),
    /** SHA-2 of the bytes, in hexadecimal. */
    sha2: text('sha2').notNull(),
    content: bytes('content').notNull(),
  },
  (t) => [primaryKey({ columns: [t.courseId, t.sha2] })],
);

/** Which statements need which bytes: what no statement needs any more goes. */
export const statementAttachments = pgTable(
  'statement_attachments',
  {
    courseId: integer('course_id').notNull(),
    statementId: text('statement_id').notNull(),
    sha2: text('sha2').notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.courseId, t.statementId, t.sha2] }),
    index('statement_attachments_sha2').on(t.courseId, t.sha2),
    foreignKey({
      name: 'statement_attachments_of',
      columns: [t.courseId, t.statementId],
      foreignColumns: [statements.courseId, statements.id],
    }).onDelete('cascade'),
  ],
);

export const DOCUMENT_KINDS = ['state', 'agent profile', 'activity profile'] as const;
export type DocumentKind = (typeof DOCUMENT_KINDS)[number];

/** Documents that clients keep here (xAPI, part three, 2.2 to 2.7). What a kind does not go by is an empty text. */
export const documents = pgTable(
  'documents',
  {
    courseId: ofCourse(),
    kind: text('kind').$type<DocumentKind>().notNull(),
    activity: text('activity').notNull().default(''),
    /** See `personKey`. */
    agent: text('agent').notNull().default(''),
    registration: text('registration').notNull().default(''),
    id: text('id').notNull(),
    /** A digest of all these: together they are longer than an index takes. */
    key: text('key').notNull(),
    contentType: text('content_type').notNull(),
    content: bytes('content').notNull(),
    updated: at('updated').notNull(),
  },
  (t) => [primaryKey({ columns: [t.courseId, t.key] })],
);

/** By what other names a source knows a student of the course. */
export const aliases = pgTable(
  'aliases',
  {
    courseId: ofCourse(),
    value: text('value').notNull(),
    personId: integer('person_id')
      .notNull()
      .references(() => persons.id, { onDelete: 'cascade' }),
  },
  (t) => [primaryKey({ columns: [t.courseId, t.value] })],
);

/** Rows of people who could not be matched yet: they go in once somebody says who it is. */
export const waiting = pgTable(
  'waiting',
  {
    id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
    courseId: ofCourse(),
    importId: integer('import_id').references(() => imports.id, { onDelete: 'cascade' }),
    kind: text('kind').$type<FileKind>().notNull(),
    /** The person as the source names them. */
    person: text('person').notNull(),
    /** What the source calls them, if it does. */
    name: text('name'),
    key: text('key').notNull(),
    /** The record; checked when read. */
    record: jsonb('record').$type<unknown>().notNull(),
    at: at('at').notNull(),
  },
  (t) => [
    uniqueIndex('waiting_key').on(t.courseId, t.kind, t.key),
    index('waiting_person').on(t.courseId, t.person),
    index('waiting_import').on(t.importId),
  ],
);

/** Students watched together across courses, and the staff who answer for them. */
export const groups = pgTable('groups', {
  id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
  name: text('name').notNull(),
});
export const groupMembers = pgTable(
  'group_members',
  {
    groupId: integer('group_id')
      .notNull()
      .references(() => groups.id, { onDelete: 'cascade' }),
    enrolmentId: ofEnrolment(),
  },
  (t) => [
    primaryKey({ columns: [t.groupId, t.enrolmentId] }),
    index('group_members_enrolment').on(t.enrolmentId),
  ],
);
export const groupStaff = pgTable(
  'group_staff',
  {
    groupId: integer('group_id')
      .notNull()
      .references(() => groups.id, { onDelete: 'cascade' }),
    userId: text('user_id')
      .notNull()
      .references(() => user.id, { onDelete: 'cascade' }),
  },
  (t) => [primaryKey({ columns: [t.groupId, t.userId] })],
);

/** What of a student was erased on request, when and by whom; nothing of the student. */
export const erasures = pgTable('erasures', {
  id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
  courseId: ofCourse(),
  userId: text('user_id').references(() => user.id, { onDelete: 'set null' }),
  at: at('at').notNull(),
  /** Rows erased, by table. */
  counts: jsonb('counts').$type<Record<string, number>>().notNull(),
});
