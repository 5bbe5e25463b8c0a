import type { ActivityRecord, ItemRecord, OutcomeRecord, RosterRecord } from '../course/records';

/** The field of a record that is read from an optional column, by the name of the column. */
type FieldsByColumn<T> = Readonly<Record<string, keyof T>>;

export const OUTCOME_FIELDS: FieldsByColumn<OutcomeRecord> = {
  prerequisites: 'prerequisites',
  part_of: 'parent',
};
export const ACTIVITY_FIELDS: FieldsByColumn<ActivityRecord> = {
  kind: 'kind',
  opens: 'opens',
  closes: 'closes',
  estimated_minutes: 'minutes',
  attempts_allowed: 'attempts',
  outcomes: 'outcomes',
};
export const ITEM_FIELDS: FieldsByColumn<ItemRecord> = {
  stem: 'stem',
  options: 'options',
  explanation: 'explanation',
};
export const ROSTER_FIELDS: FieldsByColumn<RosterRecord> = {
  email: 'email',
  section: 'section',
  status: 'status',
  joined: 'joined',
  left: 'left',
};

/**
 * A record from a source that has not all columns: what it cannot say stays as it is known, so that a list of names
 * does not wipe addresses, nor a list of another system what was set up here.
 *
 * @param known the record that stands; without one the value is as it was read
 * @param absent columns that the source does not have
 */
export function keepUnsaid<T extends object>(
  value: T,
  known: T | undefined,
  absent: readonly string[],
  fields: FieldsByColumn<T>,
): T {
  if (!known || absent.length === 0) return value;
  const kept: Partial<T> = {};
  for (const column of absent) {
    const field = fields[column];
    if (field !== undefined) kept[field] = known[field];
  }
  return { ...value, ...kept };
}
