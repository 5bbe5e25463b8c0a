'use client';
import { useState } from 'react';
import { tryDesignAction } from '@/actions/plans';
import { bandWords, bandOf } from '@/core/plans/bands';
import type { PlanDesign } from '@/core/plans/design';
import type { PlanView } from '@/core/plans/plan';
import { SECTION_MARKS, type SectionMark } from '@/core/plans/preCheck';
import type { LocalDate } from '@/core/units';
import { Button } from '../../parts/Button';
import { Choose } from '../../parts/Choose';
import { Field, TextInput } from '../../parts/Field';
import { Sheet } from '../../parts/Sheet';
import { useAct } from '../../parts/useAct';
import { PlanSteps } from '../PlanSteps';

/** A plan design as a student with some score would see it. */
export function TrySheet({
  code,
  design,
  points,
  today,
  zone,
  onClose,
}: {
  readonly code: string;
  readonly design: PlanDesign;
  readonly points: number | null;
  readonly today: LocalDate;
  readonly zone: string;
  readonly onClose: () => void;
}) {
  const { busy, act } = useAct();
  const [score, setScore] = useState('');
  const [mark, setMark] = useState<SectionMark>('to study');
  const [seen, setSeen] = useState<{
    readonly plan: PlanView | null;
    readonly percent: number | null;
  } | null>(null);
  const { branch } = design;
  const percent = branch && score.trim() !== '' ? Number(score) : null;
  const wrong = percent != null && !(percent >= 0 && percent <= 1000);
  return (
    <Sheet
      wide
      open
      onOpenChange={(open) => !open && onClose()}
      title="Seen as a student"
      description="For somebody who has done nothing of it yet, at 30 minutes a day from tomorrow. Nobody gets anything."
    >
      <form
        className="mb-3 flex flex-wrap items-end gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          if (wrong) return;
          act(
            () => tryDesignAction({ code, design, percent, mark: design.preCheckId == null ? null : mark }),
            { then: (plan) => setSeen({ plan, percent }) },
          );
        }}
      >
        {branch ? (
          <Field label="Score in per cent" className="w-40" error={wrong ? 'A number from 0 up.' : undefined}>
            {(ids) => (
              <TextInput
                {...ids}
                autoFocus
                inputMode="decimal"
                value={score}
                onChange={(e) => setScore(e.target.value)}
              />
            )}
          </Field>
        ) : null}
        {design.preCheckId == null ? null : (
          <Field label="The pre-check says" className="w-40">
            {(ids) => (
              <Choose<SectionMark>
                {...ids}
                label="The pre-check says"
                value={mark}
                options={SECTION_MARKS.map((value) => ({ value, label: value }))}
                onChange={setMark}
              />
            )}
          </Field>
        )}
        <Button look="main" type="submit" disabled={busy}>
          Show the plan
        </Button>
      </form>
      {seen ? (
        <section aria-label="The plan as the student sees it" aria-live="polite">
          {branch && seen.percent != null ? (
            <p className="text-muted mb-1">
              {bandWords(bandOf(seen.percent, branch.marks), branch.marks, points)}. The student does not see
              the name of the band.
            </p>
          ) : null}
          {seen.plan ? (
            <>
              <h3 className="font-serif text-lg font-semibold">{seen.plan.title}</h3>
              {design.purpose ? <p className="text-muted">{design.purpose}</p> : null}
              <PlanSteps
                plan={seen.plan}
                today={today}
                zone={zone}
                tick={() => <input type="checkbox" disabled className="size-4 shrink-0 translate-y-0.5" />}
                title={(step) => step.title}
              />
            </>
          ) : (
            <p>Without a score there is nothing to give yet: they wait.</p>
          )}
        </section>
      ) : null}
    </Sheet>
  );
}
