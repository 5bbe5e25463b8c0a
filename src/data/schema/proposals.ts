import { boolean, index, integer, jsonb, pgTable, text } from 'drizzle-orm/pg-core';
import { user } from './auth';
import { at } from './columns';
import { units } from './institution';
import { persons } from './people';

/** Who somebody is, as the institution has it on record. */
export interface Identity {
  readonly externalId: string;
  readonly given: string;
  readonly family: string;
  readonly email: string | null;
}

/** What a unit is called and belongs to. */
export interface UnitPlace {
  readonly name: string;
  readonly parentId: number | null;
}

/**
 * Changes to a person or a unit that others rely on: proposed by whoever teaches one of the courses concerned, and settled
 * by whoever runs the installation. Exactly one of person and unit is named.
 */
export const proposals = pgTable(
  'proposals',
  {
    id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
    personId: integer('person_id').references(() => persons.id, { onDelete: 'cascade' }),
    unitId: integer('unit_id').references(() => units.id, { onDelete: 'cascade' }),
    userId: text('user_id').references(() => user.id, { onDelete: 'set null' }),
    at: at('at').notNull(),
    /** As it stood when the change was proposed. */
    before: jsonb('before').$type<Identity | UnitPlace>().notNull(),
    after: jsonb('after').$type<Identity | UnitPlace>().notNull(),
    settledAt: at('settled_at'),
    accepted: boolean('accepted'),
  },
  (t) => [index('proposals_person').on(t.personId), index('proposals_unit').on(t.unitId)],
);
