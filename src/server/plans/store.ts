import { and, eq, isNull } from 'drizzle-orm';
import { groupBy } from '@/core/groupBy';
import { afterChange, asPlanned, type PlanChanged } from '@/core/plans/change';
import { withExpected } from '@/core/plans/expected';
import type { Wanted, WantedStep } from '@/core/plans/handOut';
import type { StepView } from '@/core/plans/plan';
import { misfitWords } from '@/core/plans/planWords';
import { busyOf, replan, type BusyDay, type PlanSetting } from '@/core/plans/replan';
import type { LocalDate } from '@/core/units';
import type { Access } from '@/data/database';
import { idsIn } from '@/data/queries/idsIn';
import type { DesignRow } from '@/data/queries/plans';
import { plans, planSteps } from '@/data/schema';
import { insertMany } from '@/data/write/bulk';
import { nowDate } from '../base/clock';
import { anew, busyAfter, storeAnew, type PlannedAnew } from './anew';

/** A plan that is to be handed out for the first time. */
export interface NewPlan {
  readonly design: DesignRow;
  readonly student: number;
  readonly wanted: Wanted;
}

/** A step as it is to be stored. */
const rowOf = (planId: number, s: WantedStep, on: LocalDate, position: number) => ({
  planId,
  position,
  on,
  activityId: s.activityId,
  title: s.title,
  minutes: s.minutes,
  why: s.why,
  part: s.part,
  designStep: s.designStep,
  set: s.set,
  lessonAt: s.lessonAt == null ? null : new Date(s.lessonAt),
  place: s.place,
  outcomeId: s.outcomeId,
  further: s.further,
});

/** What the plans of each student have to fit, beside what those that were placed already ask for. */
export interface Placing {
  readonly settingOf: (student: number) => PlanSetting;
  readonly busy: Map<number, BusyDay[]>;
}

const settingIn = ({ settingOf, busy }: Placing, student: number): PlanSetting => ({
  ...settingOf(student),
  busy: busy.get(student) ?? [],
});

const take = ({ busy }: Placing, student: number, days: readonly BusyDay[]): void =>
  void busy.set(student, [...(busy.get(student) ?? []), ...days]);

/** A new plan with its steps in their order, each on its day, and what of it does not fit. */
function placed({ student, wanted }: NewPlan, placing: Placing) {
  const setting = settingIn(placing, student);
  const { steps } = wanted;
  const planned = withExpected(
    wanted.parts,
    steps.map((s, i) => asPlanned(s, -1 - i, setting)),
  );
  const found = replan(wanted.parts, planned, setting);
  // Where no order can be kept, everything has the first day, and the student sees all of it.
  const order = found.ok ? found.value.order : planned.map((s) => s.id);
  const onOf = (id: number): LocalDate => (found.ok ? found.value.on.get(id) : undefined) ?? setting.from;
  take(placing, student, busyOf([{ steps: planned.map((s) => ({ ...s, on: onOf(s.id) })) }]));
  return {
    said: (found.ok && misfitWords(planned, found.value)) || null,
    rows: order.map((id) => ({
      step: steps[-1 - id]!,
      on: onOf(id),
    })),
  };
}

/** Hands plans out. Who has one of the design already gets no second. */
export async function storeNew(tx: Access, list: readonly NewPlan[], placing: Placing): Promise<void> {
  if (list.length === 0) return;
  const all = list.map((plan) => ({ plan, ...placed(plan, placing) }));
  const made = await tx.orm
    .insert(plans)
    .values(
      all.map(({ plan: { design, student, wanted }, said }) => ({
        enrolmentId: student,
        userId: design.userId,
        createdAt: nowDate(),
        designId: design.id,
        title: design.design.title,
        parts: wanted.parts,
        said,
        saidAt: said == null ? null : nowDate(),
      })),
    )
    .onConflictDoNothing()
    .returning({ id: plans.id, student: plans.enrolmentId, design: plans.designId });
  const idOf = new Map(made.map((m) => [`${m.design} ${m.student}`, m.id]));
  const rows = all.flatMap(({ plan: { design, student }, rows: own }) => {
    const planId = idOf.get(`${design.id} ${student}`);
    return planId == null ? [] : own.map(({ step, on }, position) => rowOf(planId, step, on, position));
  });
  await insertMany(tx, planSteps, rows);
}

/** Writes what changed in plans, and makes them anew. */
export async function storeChanges(
  tx: Access,
  list: readonly PlanChanged[],
  placing: Placing,
): Promise<void> {
  if (list.length === 0) return;
  const { orm } = tx;
  const removed = list.flatMap((c) => c.remove);
  if (removed.length > 0)
    // What was ticked meanwhile stays.
    await orm.delete(planSteps).where(and(idsIn(planSteps.id, removed), isNull(planSteps.doneAt)));
  for (const { plan, wanted, keep, done } of list) {
    if (wanted) await orm.update(plans).set({ parts: wanted.parts }).where(eq(plans.id, plan.id));
    for (const { id, as } of keep) {
      const step = plan.steps.find((s) => s.id === id)!;
      if (as == null || isAs(step, as)) continue;
      await orm
        .update(planSteps)
        .set({
          part: as.part,
          designStep: as.designStep,
          ...(step.doneAt == null ? contentOf(step, as) : {}),
        })
        .where(eq(planSteps.id, id));
    }
    for (const [id, at] of done)
      await orm
        .update(planSteps)
        .set({ doneAt: new Date(at) })
        .where(eq(planSteps.id, id));
  }
  const added = list.flatMap((c) => c.add.map((s) => ({ c, s })));
  const rows = await insertMany(
    tx,
    planSteps,
    added.map(({ c, s }, i) => rowOf(c.plan.id, s, placing.settingOf(c.plan.enrolmentId).from, 1000 + i)),
    { returning: [planSteps.id] },
  );
  const idsOf = groupBy(
    added.map(({ c, s }, i) => ({ plan: c.plan.id, s, id: Number(rows[i]!.id) })),
    (a) => a.plan,
  );
  const made: PlannedAnew[] = [];
  for (const change of list) {
    const setting = settingIn(placing, change.plan.enrolmentId);
    const plan = afterChange(change, idsOf.get(change.plan.id) ?? [], setting);
    const found = anew(plan, setting, change.why, {
      added: change.add.length,
      removed: change.remove.length,
    });
    if (!found.ok) continue;
    made.push(found.value);
    take(placing, plan.enrolmentId, busyAfter(plan, found.value));
  }
  await storeAnew(tx, made);
}

/** What a step that stays takes over from the design; what it was resolved to for this student, it keeps. */
const contentOf = (step: StepView, as: WantedStep) => ({
  set: as.set,
  lessonAt: as.lessonAt == null ? null : new Date(as.lessonAt),
  place: as.place,
  minutes: as.minutes,
  title: step.activityId === as.activityId ? as.title : step.title,
});

const isAs = (step: StepView, as: WantedStep): boolean =>
  step.part === as.part &&
  step.designStep === as.designStep &&
  (step.doneAt != null ||
    (step.set === as.set &&
      step.lessonAt === as.lessonAt &&
      step.place === as.place &&
      step.minutes === as.minutes &&
      (step.title === as.title || step.activityId !== as.activityId)));
