'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { useFieldArray, useWatch } from 'react-hook-form';
import { archiveCourseAction, newCourseAction, saveCourseAction } from '@/actions/setup';
import type { CourseForm } from '@/core/forms/setup';
import type { SetupView } from '@/core/views/setup';
import { Button } from '../parts/Button';
import { Choose } from '../parts/Choose';
import { Field } from '../parts/Field';
import { Panel } from '../parts/Panel';
import { useAct } from '../parts/useAct';
import { EditRow } from './EditRow';
import { EditSheet } from './EditSheet';
import { DayField, NumberField, SelectField, TextField, Ticks } from '../parts/fields';
import { useYupForm } from '../parts/useYupForm';
import { unitOptions, Units } from './Units';

const loadCourseForm = () => import('@/core/forms/setup').then((m) => m.courseForm);
const loadNewCourseForm = () => import('@/core/forms/setup').then((m) => m.newCourseForm);

const TERM_FIELDS = ['termName', 'zone', 'termStart', 'termWeeks'] as const;

/** What of the setup is drawn here. */
type Drawn = Pick<SetupView, 'course' | 'archived' | 'form' | 'units' | 'terms' | 'sameTerm'>;

/** Title, unit, term, breaks and policy of the course; another course can be made here. */
export function CoursePart({ view }: { readonly view: Drawn }) {
  const { code } = view.course;
  const { control, handleSubmit, setValue } = useYupForm(loadCourseForm, view.form);
  const breaks = useFieldArray({ control, name: 'breaks' });
  const form = useWatch({ control });
  const [opened, setOpened] = useState<CourseForm>(view.form);
  const [alsoIn, setAlsoIn] = useState<readonly string[]>([]);
  const [sheet, setSheet] = useState<'course' | null>(null);
  const { busy, act } = useAct();
  const newTerm =
    TERM_FIELDS.some((field) => form[field] !== view.form[field]) ||
    JSON.stringify(form.breaks) !== JSON.stringify(view.form.breaks);
  const units = [{ value: null, label: 'none' }, ...unitOptions(view.units)];
  const save = (values: CourseForm) => {
    const over = (was: object) =>
      saveCourseAction({ code, form: values, alsoIn: newTerm ? alsoIn : [], was });
    act(() => over(opened), {
      done: 'Saved',
      then: () => setOpened(values),
      edit: { mine: values, over },
    });
  };
  return (
    <div className="space-y-4">
      <Panel className="p-4">
        <form
          className="grid grid-cols-1 gap-4 md:grid-cols-2"
          onSubmit={handleSubmit((values) => save(values))}
        >
          <TextField control={control} name="title" label="Title" />
          <SelectField control={control} name="unitId" label="Unit of the institution" options={units} />
          {view.terms.length > 0 ? (
            <Field label="Copy the term of another course" hint="Its name, zone, weeks and breaks.">
              {(ids) => (
                <Choose
                  {...ids}
                  value=""
                  placeholder="as it stands here"
                  options={view.terms.map((t, i) => ({
                    value: String(i),
                    label: `${t.termName}, from ${t.termStart} (${t.courses.join(', ')})`,
                  }))}
                  onChange={(i) => {
                    const term = view.terms[Number(i)];
                    if (!term) return;
                    for (const field of TERM_FIELDS) setValue(field, term[field], { shouldDirty: true });
                    breaks.replace(term.breaks);
                  }}
                />
              )}
            </Field>
          ) : null}
          <TextField control={control} name="termName" label="Term" />
          <TextField
            control={control}
            name="zone"
            label="Time zone"
            hint="Like Europe/Lisbon. Days, weeks and meetings are cut by it."
          />
          <DayField control={control} name="termStart" label="First day of week 1" />
          <NumberField control={control} name="termWeeks" label="Weeks" />
          <SelectField
            control={control}
            name="missing"
            label="A missing assignment counts"
            options={[
              { value: 'zero', label: 'as zero' },
              { value: 'ignore', label: 'not at all until it is graded' },
            ]}
          />
          <SelectField
            control={control}
            name="attempts"
            label="Of several attempts counts"
            options={[
              { value: null, label: 'what was graded' },
              { value: 'first', label: 'the first' },
              { value: 'best', label: 'the best' },
              { value: 'last', label: 'the last' },
              { value: 'average', label: 'the average' },
            ]}
          />
          <fieldset className="space-y-2 md:col-span-2">
            <legend className="text-sm font-semibold">Breaks</legend>
            {breaks.fields.map((b, i) => (
              <EditRow key={b.id} label={`Break ${i + 1}`} onRemove={() => breaks.remove(i)}>
                <TextField control={control} name={`breaks.${i}.name`} label="Name" />
                <DayField control={control} name={`breaks.${i}.from`} label="First day" />
                <DayField control={control} name={`breaks.${i}.to`} label="Last day" />
              </EditRow>
            ))}
            <Button
              onClick={() => {
                const day = form.termStart ?? view.form.termStart;
                breaks.append({ name: 'Break', from: day, to: day });
              }}
            >
              Add a break
            </Button>
          </fieldset>
          {newTerm && view.sameTerm.length > 0 ? (
            <div className="md:col-span-2">
              <Ticks
                label="Courses with the same term until now: change it there too"
                options={view.sameTerm.map((other) => ({ value: other, label: other }))}
                value={alsoIn}
                onChange={setAlsoIn}
              />
            </div>
          ) : null}
          <div className="md:col-span-2">
            <Button look="main" type="submit" disabled={busy}>
              {busy ? 'Saving and cutting days anew …' : 'Save'}
            </Button>
          </div>
        </form>
      </Panel>
      <Panel className="flex flex-wrap items-center gap-2 p-4">
        <Button onClick={() => setSheet('course')}>Make another course</Button>
        <Button
          disabled={busy}
          onClick={() =>
            act(() => archiveCourseAction({ code, on: !view.archived }), {
              done: view.archived ? 'The course is restored' : 'The course is archived; nothing is lost',
              undo: () => act(() => archiveCourseAction({ code, on: view.archived })),
            })
          }
        >
          {view.archived ? 'Restore the course' : 'Archive the course'}
        </Button>
        <p className="text-muted">
          {view.archived
            ? 'This course is archived: it is last in the list, and nobody can join it.'
            : 'An archived course keeps everything.'}
        </p>
      </Panel>
      <Units code={code} units={view.units} />
      {sheet === 'course' ? <NewCourse view={view} onClose={() => setSheet(null)} /> : null}
    </div>
  );
}

function NewCourse({ view, onClose }: { readonly view: Drawn; readonly onClose: () => void }) {
  const { termName, zone, termStart, termWeeks, breaks } = view.form;
  const { control, handleSubmit } = useYupForm(loadNewCourseForm, {
    code: '',
    title: '',
    termName,
    zone,
    termStart,
    termWeeks,
    breaks,
  });
  const { busy, act } = useAct();
  const router = useRouter();
  return (
    <EditSheet
      title="Make a course"
      description="The term is that of this course; it can be changed afterwards."
      busy={busy}
      onClose={onClose}
      saveLabel="Make it"
      onSave={handleSubmit((form) =>
        act(() => newCourseAction(form), {
          then: (code) => router.push(`/c/${code}/setup?part=check`),
        }),
      )}
    >
      <TextField
        control={control}
        name="code"
        label="Code"
        hint="Letters, digits and hyphens, like NAV-120"
      />
      <TextField control={control} name="title" label="Title" />
    </EditSheet>
  );
}
