import { boolean, date, index, integer, pgSequence, pgTable, text, uniqueIndex } from 'drizzle-orm/pg-core';
import type { EnrolmentStatus } from '@/core/course/kinds';
import { at } from './columns';
import { ofCourse, sections } from './courses';

/** Somebody who learns here, once, whatever courses they are in. */
export const persons = pgTable('persons', {
  id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
  /** The `student_id` of the files. */
  externalId: text('external_id').notNull().unique(),
  given: text('given').notNull(),
  family: text('family').notNull(),
  email: text('email'),
  /** Whether they want messages as e-mail too. */
  mailCopies: boolean('mail_copies').notNull().default(true),
  /** Why mail to the address does not arrive, and since when; null as long as it does. */
  mailFault: text('mail_fault'),
  mailFaultAt: at('mail_fault_at'),
});

/** One person's place in a course. */
export const enrolments = pgTable(
  'enrolments',
  {
    id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
    courseId: ofCourse(),
    personId: integer('person_id')
      .notNull()
      .references(() => persons.id, { onDelete: 'cascade' }),
    sectionId: integer('section_id').references(() => sections.id, { onDelete: 'set null' }),
    status: text('status').$type<EnrolmentStatus>().notNull().default('active'),
    joinedOn: date('joined_on'),
    leftOn: date('left_on'),
    /**
     * An instructor put somebody in who was on record elsewhere: what is known of them there (their address) is not shown
     * until they accept, or a roster of the institution has them here.
     */
    contactHidden: boolean('contact_hidden').notNull().default(false),
    /** The course's `rev` when something of this student last came in or was derived. */
    rev: integer('rev').notNull().default(0),
    /** Which version of the derived rows holds. */
    version: integer('version').notNull().default(0),
  },
  (t) => [
    uniqueIndex('enrolments_place').on(t.courseId, t.personId),
    index('enrolments_person').on(t.personId),
  ],
);

/** The enrolment that a row belongs to, and goes with. */
export const ofEnrolment = () =>
  integer('enrolment_id')
    .notNull()
    .references(() => enrolments.id, { onDelete: 'cascade' });

/** Numbers of versions of derived rows, never given twice. */
export const versions = pgSequence('derived_versions');
