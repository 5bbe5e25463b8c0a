'use client';
import { useState } from 'react';
import { saveGuardsAction } from '@/actions/rules';
import { dayAndTime } from '@/core/format';
import type { CourseLogLine } from '@/core/views/courseLog';
import type { Guards as Form } from '@/core/unasked/guards';
import { Button } from '../parts/Button';
import { ClockField, NumberField } from '../parts/fields';
import { Panel } from '../parts/Panel';
import { useAct } from '../parts/useAct';
import { useYupForm } from '../parts/useYupForm';

const loadForm = () => import('@/core/forms/rule').then((m) => m.guardsForm);

/** What keeps rules from writing too often, and at night: always on, and its numbers. */
export function Guards({
  code,
  zone,
  guards,
  changes,
}: {
  readonly code: string;
  readonly zone: string;
  readonly guards: Form;
  readonly changes: readonly CourseLogLine[];
}) {
  const { busy, act } = useAct();
  const [opened, setOpened] = useState<Form>(guards);
  const { control, handleSubmit, reset } = useYupForm<Form>(loadForm, guards);
  return (
    <Panel className="p-4">
      <section aria-label="Always on">
        <h2 className="font-serif text-lg font-semibold">Always on</h2>
        <p className="text-muted mb-3 max-w-prose">
          Counted for each student over all their courses. No rule writes outside the term, to who has left,
          about what was excused or handed in meanwhile, twice a day in a course, or for a week to somebody
          who said that something is in the way. The rule higher in the list writes first.
        </p>
        <form
          method="post"
          noValidate
          className="flex flex-wrap items-end gap-4"
          onSubmit={handleSubmit((form) =>
            act(() => saveGuardsAction({ code, guards: form, was: opened }), {
              done: 'Saved.',
              edit: { mine: form, over: (was) => saveGuardsAction({ code, guards: form, was }) },
              then: () => {
                setOpened(form);
                reset(form);
              },
              undo: (before) =>
                act(() => saveGuardsAction({ code, guards: before, was: form }), {
                  done: 'As before.',
                  then: () => {
                    setOpened(before);
                    reset(before);
                  },
                }),
            }),
          )}
        >
          <NumberField
            control={control}
            name="coolDownDays"
            label="Days between two about the same"
            step={1}
          />
          <NumberField control={control} name="mostAWeek" label="Most messages in 7 days" step={1} />
          <ClockField control={control} name="quietFrom" label="Quiet from" className="w-28" />
          <ClockField control={control} name="quietTo" label="Quiet until" className="w-28" />
          <Button type="submit" disabled={busy}>
            Save
          </Button>
        </form>
        <p className="text-muted mt-3 text-[13px]">
          The order of the rules and these limits apply to everyone who teaches this course.
        </p>
        {changes.length > 0 ? (
          <ul aria-label="Changes of order and limits" className="text-muted mt-1 text-[13px]">
            {changes.map((c) => (
              <li key={c.id}>
                {dayAndTime(c.at, zone)}: {c.by ?? 'Someone who has left'} {c.what}
              </li>
            ))}
          </ul>
        ) : null}
      </section>
    </Panel>
  );
}
