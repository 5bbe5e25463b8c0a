import { integer, pgTable, text, type AnyPgColumn } from 'drizzle-orm/pg-core';

/** The institution and what it is made of, as a tree. */
export const units = pgTable('units', {
  id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
  name: text('name').notNull(),
  parentId: integer('parent_id').references((): AnyPgColumn => units.id, { onDelete: 'restrict' }),
});
