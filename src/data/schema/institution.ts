import { date, integer, jsonb, pgTable, text, type AnyPgColumn } from 'drizzle-orm/pg-core';
import type { Break } from '@/core/calendar/term';

/** The institution and what it is made of, as a tree. */
export const units = pgTable('units', {
  id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
  name: text('name').notNull(),
  parentId: integer('parent_id').references((): AnyPgColumn => units.id, { onDelete: 'restrict' }),
});

/** Terms that courses can be held in. A course keeps a copy, which follows when its term is edited. */
export const terms = pgTable('terms', {
  id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
  name: text('name').notNull().unique(),
  zone: text('zone').notNull(),
  start: date('start_day').notNull(),
  weeks: integer('weeks').notNull(),
  breaks: jsonb('breaks').$type<Break[]>().notNull(),
});
