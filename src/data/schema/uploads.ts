import { integer, jsonb, pgTable, primaryKey, text } from 'drizzle-orm/pg-core';
import { user } from './auth';
import { at, bytes } from './columns';
import { courses } from './courses';

/** Files that somebody sent and has not imported yet; and e-mails that came in and were not read yet, or can't be. */
export const uploads = pgTable('uploads', {
  id: text('id').primaryKey(),
  /** Whose it is; null for an e-mail, which belongs to nobody before it was read. */
  courseId: integer('course_id').references(() => courses.id, { onDelete: 'cascade' }),
  userId: text('user_id').references(() => user.id, { onDelete: 'cascade' }),
  at: at('at').notNull(),
  names: jsonb('names').$type<string[]>().notNull(),
  /** How files of a foreign make are read, by their names. Checked when read. */
  told: jsonb('told').$type<unknown>().notNull(),
});

/** Their content, where several processes work on one database: each finds it here. */
export const uploadPieces = pgTable(
  'upload_pieces',
  {
    uploadId: text('upload_id')
      .notNull()
      .references(() => uploads.id, { onDelete: 'cascade' }),
    file: integer('file').notNull(),
    piece: integer('piece').notNull(),
    content: bytes('content').notNull(),
  },
  (t) => [primaryKey({ columns: [t.uploadId, t.file, t.piece] })],
);
