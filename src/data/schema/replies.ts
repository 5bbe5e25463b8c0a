import { boolean, index, integer, pgTable, text, uniqueIndex } from 'drizzle-orm/pg-core';
import { at } from './columns';
import { ofCourse } from './courses';
import { ofEnrolment } from './people';
import { recipients } from './acts';
import { user } from './auth';
import { uploads } from './uploads';

/** What students answered, here or by e-mail. */
export const replies = pgTable(
  'replies',
  {
    id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
    courseId: ofCourse(),
    enrolmentId: ofEnrolment(),
    /** The copy that is answered. */
    recipientId: integer('recipient_id').references(() => recipients.id, { onDelete: 'set null' }),
    body: text('body').notNull(),
    via: text('via').$type<'here' | 'mail'>().notNull(),
    /** Of an e-mail that came from another address than the student's: that address. */
    otherAddress: text('other_address'),
    /** It says that it comes from the student's address, and the receiving server does not vouch for it. */
    unverified: boolean('unverified').notNull().default(false),
    /** Of an e-mail that can't be read: the file that keeps it as it came. */
    uploadId: text('upload_id').references(() => uploads.id, { onDelete: 'set null' }),
    /** Sent by a machine (RFC 3834): an absence note, say. Kept, and waits for nobody. */
    automatic: boolean('automatic').notNull().default(false),
    /** Attachments that came with it and were not kept. */
    dropped: integer('dropped').notNull().default(0),
    /** The Message-ID of an e-mail, or a key of the page: what comes twice is there once. */
    key: text('key').notNull(),
    at: at('at').notNull(),
    /** When somebody who teaches first opened it. */
    readAt: at('read_at'),
    readBy: text('read_by').references(() => user.id, { onDelete: 'set null' }),
  },
  (t) => [uniqueIndex('replies_once').on(t.enrolmentId, t.key), index('replies_course').on(t.courseId, t.at)],
);
