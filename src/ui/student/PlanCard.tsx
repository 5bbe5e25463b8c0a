'use client';
import { useOptimistic } from 'react';
import { tickAction } from '@/actions/student';
import type { LocalDate } from '@/core/units';
import { isOpen, type PlanView, type StepView } from '@/core/plans/plan';
import { classes, finger } from '../parts/classes';
import { counted } from '@/core/format';
import { Panel } from '../parts/Panel';
import { PlanSteps } from '../plans/PlanSteps';
import { useAct } from '../parts/useAct';

/** The student's plan: steps to tick off, each with an undo. */
export function PlanCard({
  plan,
  today,
  zone,
  missing,
  assignments,
}: {
  readonly plan: PlanView;
  readonly today: LocalDate;
  readonly zone: string;
  /** The student's missing assignments, by id. */
  readonly missing: readonly number[];
  /** The assignments that stand on the page, by id. */
  readonly assignments: ReadonlySet<number>;
}) {
  const { act } = useAct();
  const [steps, showTick] = useOptimistic(plan.steps, (now, change: { id: number; done: boolean }) =>
    now.map((s) => (s.id === change.id ? { ...s, doneAt: change.done ? 1 : null } : s)),
  );
  const tick = (step: StepView, done: boolean) =>
    act(
      async () => {
        showTick({ id: step.id, done });
        return tickAction({ step: step.id, done });
      },
      {
        done: done ? `Ticked off “${step.title}”.` : `“${step.title}” is open again.`,
        undo: done ? () => tick(step, false) : undefined,
      },
    );
  const open = steps.filter(isOpen);
  return (
    <Panel className="p-5">
      <h3 className="font-serif text-lg font-semibold">
        {open.length === 0
          ? `${plan.title ?? 'Your plan'}: done`
          : `${plan.title ?? 'Your plan'}: ${counted(open.length, 'step')} to go, next “${open[0]!.title}”`}
      </h3>
      <p className="text-muted mb-2 text-[13px]">
        From {plan.by}. {leftOut(steps, missing)}
      </p>
      {plan.said ? <p className="border-amber mb-2 border-l-[3px] pl-3">{plan.said}</p> : null}
      {open.length > 0 ? <p className="mb-2">{todayWords(open, today)}</p> : null}
      <PlanSteps
        plan={{ ...plan, steps }}
        today={today}
        zone={zone}
        tick={(step) => (
          <input
            type="checkbox"
            className="accent-teal size-4 shrink-0 translate-y-0.5"
            checked={step.doneAt != null}
            disabled={step.byItself != null}
            onChange={(e) => tick(step, e.target.checked)}
          />
        )}
        title={(step) =>
          step.activityId == null || !assignments.has(step.activityId) ? (
            step.title
          ) : (
            <a href={`#assignment-${step.activityId}`} className={classes('hover:underline', finger)}>
              {step.title}
            </a>
          )
        }
      />
    </Panel>
  );
}

/** What is for today, and what was for days before it, in minutes. */
function todayWords(open: readonly StepView[], today: LocalDate): string {
  const minutes = (list: readonly StepView[]) => list.reduce((sum, s) => sum + s.minutes, 0);
  const [now, before] = [open.filter((s) => s.on === today), open.filter((s) => s.on < today)];
  const parts = [
    ...(now.length > 0 ? [`Today: ${minutes(now)} min`] : ['Nothing is for today']),
    ...(before.length > 0 ? [`${minutes(before)} min of days before are open`] : []),
  ];
  return `${parts.join('; ')}.`;
}

/** What of the missing assignments is not in the plan: it does not have to be done all at once. */
function leftOut(steps: readonly StepView[], missing: readonly number[]): string {
  const out = missing.filter((id) => !steps.some((s) => s.activityId === id)).length;
  return out === 0 ? '' : `${counted(out, 'other assignment')} that you are missing can wait.`;
}
