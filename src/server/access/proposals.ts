import { and, asc, eq, inArray, isNull } from 'drizzle-orm';
import { sameFields } from '@/core/formats/sameRecord';
import type { Access, Database } from '@/data/database';
import { courses, enrolments, persons, proposals, units, user } from '@/data/schema';
import type { Identity, UnitPlace } from '@/data/schema/proposals';
import { nowDate } from '../base/clock';
import { setupChanged } from '../derive/setupChanged';
import { invalid, notFound } from '../base/errors';
import { peopleOfOthers, unitOfOthers } from './reliedOn';

/** What became of a change: it was made, it waits for whoever runs the installation, or there was none. */
export type Change = 'changed' | 'proposed' | 'none';

const identityOf = ({ externalId, given, family, email }: Identity): Identity => ({
  externalId,
  given,
  family,
  email,
});

/** Puts a change on the list, unless the same waits there already. */
async function propose(
  { orm }: Access,
  userId: string,
  about: { readonly personId: number } | { readonly unitId: number },
  before: Identity | UnitPlace,
  after: Identity | UnitPlace,
): Promise<void> {
  const open = await orm
    .select({ after: proposals.after })
    .from(proposals)
    .where(
      and(
        'personId' in about ? eq(proposals.personId, about.personId) : eq(proposals.unitId, about.unitId),
        isNull(proposals.settledAt),
      ),
    );
  if (open.some((p) => sameFields(p.after, after))) return;
  await orm.insert(proposals).values({ ...about, userId, at: nowDate(), before, after });
}

/**
 * Changes who somebody is, for a user who teaches a course of theirs: at once where only courses of this user rely on it;
 * else it is proposed. An id that belongs to somebody else is refused.
 */
export async function changeIdentity(
  access: Access,
  userId: string,
  personId: number,
  wanted: Identity,
): Promise<Change> {
  const { orm } = access;
  const [person] = await orm.select().from(persons).where(eq(persons.id, personId)).for('update');
  if (!person) throw notFound('student');
  const [before, after] = [identityOf(person), identityOf(wanted)];
  if (sameFields(before, after)) return 'none';
  await refuseTaken(access, personId, after.externalId);
  const others = await peopleOfOthers(access, userId, [person.externalId]);
  if (others.size > 0) {
    await propose(access, userId, { personId }, before, after);
    return 'proposed';
  }
  await orm.update(persons).set(after).where(eq(persons.id, personId));
  return 'changed';
}

async function refuseTaken({ orm }: Access, personId: number, externalId: string): Promise<void> {
  const [other] = await orm
    .select({ id: persons.id })
    .from(persons)
    .where(eq(persons.externalId, externalId));
  if (other && other.id !== personId) throw invalid(`The id “${externalId}” is that of somebody else.`);
}

/** Changes what a unit is called and belongs to: at once where only courses of this user are in it; else it is proposed. */
export async function changeUnit(
  access: Access,
  userId: string,
  unit: UnitPlace & { readonly id: number },
  after: UnitPlace,
): Promise<Change> {
  const before: UnitPlace = { name: unit.name, parentId: unit.parentId };
  if (sameFields(before, after)) return 'none';
  if (await unitOfOthers(access, userId, unit.id)) {
    await propose(access, userId, { unitId: unit.id }, before, after);
    return 'proposed';
  }
  await access.orm.update(units).set(after).where(eq(units.id, unit.id));
  return 'changed';
}

export interface OpenProposal {
  readonly id: number;
  readonly about: 'person' | 'unit';
  readonly by: string | null;
  readonly at: string;
  readonly before: Identity | UnitPlace;
  readonly after: Identity | UnitPlace;
}

/** The changes that wait for whoever runs the installation, the oldest first. */
export async function openProposals({ orm }: Pick<Access, 'orm'>): Promise<OpenProposal[]> {
  const rows = await orm
    .select({ proposal: proposals, by: user.email })
    .from(proposals)
    .leftJoin(user, eq(user.id, proposals.userId))
    .where(isNull(proposals.settledAt))
    .orderBy(asc(proposals.id));
  return rows.map(({ proposal: { id, personId, at, before, after }, by }) => ({
    id,
    about: personId == null ? 'unit' : 'person',
    by,
    at: at.toISOString(),
    before,
    after,
  }));
}

/** What of a proposal is another than before, put over what stands now: what others changed meanwhile stays. */
const changes = <T extends object>(before: T, after: T): Partial<T> =>
  Object.fromEntries(
    Object.entries(after).filter(([key, value]) => before[key as keyof T] !== value),
  ) as Partial<T>;

/** Makes a proposed change, or leaves it. Either way it is off the list. */
export async function settleProposal(db: Database, id: number, accept: boolean): Promise<void> {
  await db.transaction(async (tx) => {
    const { orm } = tx;
    const [open] = await orm
      .select()
      .from(proposals)
      .where(and(eq(proposals.id, id), isNull(proposals.settledAt)))
      .for('update');
    if (!open) throw notFound('proposal that waits');
    await orm.update(proposals).set({ settledAt: nowDate(), accepted: accept }).where(eq(proposals.id, id));
    if (!accept) return;
    if (open.personId != null) {
      const wanted = changes(open.before as Identity, open.after as Identity);
      if (wanted.externalId != null) await refuseTaken(tx, open.personId, wanted.externalId);
      await orm.update(persons).set(wanted).where(eq(persons.id, open.personId));
    }
    if (open.unitId != null)
      await orm
        .update(units)
        .set(changes(open.before as UnitPlace, open.after as UnitPlace))
        .where(eq(units.id, open.unitId));
    const theirs = await orm
      .selectDistinct({ id: enrolments.courseId })
      .from(enrolments)
      .where(eq(enrolments.personId, open.personId ?? 0));
    const ofUnit = await orm
      .select({ id: courses.id })
      .from(courses)
      .where(inArray(courses.unitId, [open.unitId ?? 0]));
    for (const course of [...theirs, ...ofUnit]) await setupChanged(tx, course.id);
  });
}
