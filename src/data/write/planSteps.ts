import { sql } from 'drizzle-orm';
import type { LocalDate } from '@/core/units';
import type { Access } from '../database';
import { plans, planSteps } from '../schema';

/** Where a step of a plan goes. */
export interface StepPlace {
  readonly id: number;
  readonly on: LocalDate;
  readonly position: number;
  /** The day that was missed with it; null if none was. */
  readonly wasOn: LocalDate | null;
}

/** Gives steps of plans their days and places, however many, in one statement. */
export async function moveSteps({ orm }: Access, places: readonly StepPlace[]): Promise<void> {
  if (places.length === 0) return;
  await orm.execute(sql`update ${planSteps} set on_day = to_.on_day, position = to_.position, was_on_day = to_.was_on
    from unnest(${sql.param(places.map((p) => p.id))}::int[], ${sql.param(places.map((p) => p.on))}::date[],
      ${sql.param(places.map((p) => p.position))}::int[], ${sql.param(places.map((p) => p.wasOn))}::date[])
      as to_(id, on_day, position, was_on)
    where ${planSteps.id} = to_.id`);
}

/** What a plan says of itself. */
export interface PlanSaying {
  readonly id: number;
  readonly said: string;
}

/** Lets plans say what changed in them last. */
export async function sayOfPlans({ orm }: Access, sayings: readonly PlanSaying[], at: Date): Promise<void> {
  if (sayings.length === 0) return;
  await orm.execute(sql`update ${plans} set said = to_.said, said_at = ${at.toISOString()}::timestamptz
    from unnest(${sql.param(sayings.map((s) => s.id))}::int[], ${sql.param(sayings.map((s) => s.said))}::text[]) as to_(id, said)
    where ${plans.id} = to_.id`);
}
