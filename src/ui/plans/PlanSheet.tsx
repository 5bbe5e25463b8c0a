'use client';
import { useState } from 'react';
import { keepStepDayAction } from '@/actions/plans';
import { isOpen, type StepView } from '@/core/plans/plan';
import type { LocalDate } from '@/core/units';
import type { CoursePlanRow } from '@/core/views/plan';
import { Button } from '../parts/Button';
import { DayInput } from '../parts/DayInput';
import { Sheet } from '../parts/Sheet';
import { useAct } from '../parts/useAct';
import { PlanSteps } from './PlanSteps';

/** One student's plan with all of its steps; a step can be kept on a day whatever else moves. */
export function PlanSheet({
  code,
  zone,
  today,
  row: { plan, name },
  onClose,
}: {
  readonly code: string;
  readonly zone: string;
  readonly today: LocalDate;
  readonly row: CoursePlanRow;
  readonly onClose: () => void;
}) {
  const open = plan.steps.filter((s) => isOpen(s) && s.lessonAt == null);
  return (
    <Sheet
      wide
      open
      onOpenChange={(is) => !is && onClose()}
      title={`${plan.title ?? 'A plan'} for ${name}`}
      description={`From ${plan.by}.${plan.said ? ` ${plan.said}` : ''}`}
    >
      <PlanSteps
        plan={plan}
        today={today}
        zone={zone}
        tick={(step) => (
          <input
            type="checkbox"
            readOnly
            disabled
            checked={step.doneAt != null}
            className="size-4 shrink-0 translate-y-0.5"
          />
        )}
        title={(step) => step.title}
      />
      {open.length > 0 ? (
        <section aria-label="Days that stay" className="mt-4">
          <h3 className="font-semibold">Days that stay</h3>
          <p className="text-muted mb-1 text-[13px]">
            The plan moves by itself when a day is missed or something is done early. A step that is kept
            stays on its day.
          </p>
          <ul className="space-y-1">
            {open.map((step) => (
              <Keep key={`${step.id} ${step.on} ${step.pinned}`} code={code} step={step} today={today} />
            ))}
          </ul>
        </section>
      ) : null}
    </Sheet>
  );
}

function Keep({
  code,
  step,
  today,
}: {
  readonly code: string;
  readonly step: StepView;
  readonly today: LocalDate;
}) {
  const { busy, act } = useAct();
  const [on, setOn] = useState<LocalDate | ''>(step.on);
  const keep = (day: LocalDate | null) =>
    act(() => keepStepDayAction({ code, step: step.id, on: day }), { done: (said) => said });
  return (
    <li className="flex flex-wrap items-center gap-2">
      <span className="min-w-48 flex-1">{step.title}</span>
      <DayInput label={`Day of ${step.title}`} value={on} onChange={setOn} min={today} className="w-40" />
      <Button small disabled={busy || on === ''} onClick={() => on !== '' && keep(on)}>
        Keep this day
      </Button>
      {step.pinned ? (
        <Button small look="quiet" disabled={busy} onClick={() => keep(null)}>
          Let it move
        </Button>
      ) : null}
    </li>
  );
}
