import { customType, timestamp } from 'drizzle-orm/pg-core';

/** An instant, stored in UTC. */
export const at = (name: string) => timestamp(name, { withTimezone: true, mode: 'date' });

/** Bytes as they came. */
export const bytes = customType<{ data: Uint8Array; driverData: Uint8Array }>({
  dataType: () => 'bytea',
});
