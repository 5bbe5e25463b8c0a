import type { FileKind } from '@/core/course/records';
import { activitiesKind } from './activities';
import { gradebookKind } from './gradebook';
import { itemsKind } from './items';
import type { IntakeKind } from './kind';
import { ledgerKinds } from './ledgers';
import { LEDGER_KINDS } from '@/core/course/records';
import { outcomesKind } from './outcomes';
import { rosterKind } from './roster';

/** Kinds that an import keeps what stood before of. Events go by the number of their import. */
export type Kept = Exclude<FileKind, 'events'>;

/** Each kind of record of the intake, in the order in which the files refer to each other. */
export const KINDS: { readonly [K in Kept]: IntakeKind<K> } = {
  outcomes: outcomesKind,
  activities: activitiesKind,
  items: itemsKind,
  roster: rosterKind,
  gradebook: gradebookKind,
  ...ledgerKinds,
};

/** Kinds that a course is set up with, and those that are about its students. */
export const SET_UP = ['outcomes', 'activities', 'roster'] as const;
export const ON_STUDENTS = ['gradebook', ...LEDGER_KINDS] as const;
