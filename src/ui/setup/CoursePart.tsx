'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { archiveCourseAction, newCourseAction, saveCourseAction } from '@/actions/setup';
import type { CourseForm, SetupView } from '@/core/views/setup';
import { Button } from '../parts/Button';
import { Panel } from '../parts/Panel';
import { useAct } from '../parts/useAct';
import { EditSheet } from './EditSheet';
import { DayField, NumberField, SelectField, TextField, Ticks } from './fields';
import { unitOptions, Units } from './Units';

const TERM_FIELDS = ['termName', 'zone', 'termStart', 'termWeeks'] as const;

/** Title, unit, term, breaks and policy of the course; another course can be made here. */
export function CoursePart({ view }: { readonly view: SetupView }) {
  const { code } = view.course;
  const [form, setForm] = useState<CourseForm>(view.form);
  const [alsoIn, setAlsoIn] = useState<readonly string[]>([]);
  const [sheet, setSheet] = useState<'course' | null>(null);
  const { busy, act } = useAct();
  const set = (more: Partial<CourseForm>) => setForm({ ...form, ...more });
  const newTerm =
    TERM_FIELDS.some((field) => form[field] !== view.form[field]) ||
    JSON.stringify(form.breaks) !== JSON.stringify(view.form.breaks);
  const units = [{ value: 0, label: 'none' }, ...unitOptions(view.units)];
  return (
    <div className="space-y-4">
      <Panel className="p-4">
        <form
          className="grid gap-4 md:grid-cols-2"
          onSubmit={(e) => {
            e.preventDefault();
            act(() => saveCourseAction({ code, form, alsoIn: newTerm ? alsoIn : [] }), { done: 'Saved' });
          }}
        >
          <TextField label="Title" value={form.title} onChange={(title) => set({ title })} />
          <SelectField
            label="Unit of the institution"
            value={form.unitId ?? 0}
            options={units}
            onChange={(id) => set({ unitId: id || null })}
          />
          {view.terms.length > 0 ? (
            <SelectField
              label="Take the term of another course"
              value={-1}
              hint="Its name, zone, weeks and breaks."
              options={[
                { value: -1, label: 'as it stands here' },
                ...view.terms.map((t, i) => ({
                  value: i,
                  label: `${t.termName}, from ${t.termStart} (${t.courses.join(', ')})`,
                })),
              ]}
              onChange={(i) => {
                const term = view.terms[i];
                if (!term) return;
                const { courses: _, ...more } = term;
                set(more);
              }}
            />
          ) : null}
          <TextField label="Term" value={form.termName} onChange={(termName) => set({ termName })} />
          <TextField
            label="Time zone"
            value={form.zone}
            hint="Like Europe/Lisbon. Days, weeks and meetings are cut by it."
            onChange={(zone) => set({ zone })}
          />
          <DayField
            label="First day of week 1"
            value={form.termStart}
            onChange={(termStart) => set({ termStart })}
          />
          <NumberField
            label="Weeks"
            value={form.termWeeks}
            step={1}
            onChange={(n) => set({ termWeeks: n ?? 0 })}
          />
          <SelectField
            label="A missing work counts"
            value={form.missing}
            options={[
              { value: 'zero', label: 'as zero' },
              { value: 'ignore', label: 'not at all until it is graded' },
            ]}
            onChange={(missing) => set({ missing })}
          />
          <fieldset className="space-y-2 md:col-span-2">
            <legend className="text-sm font-semibold">Breaks</legend>
            {form.breaks.map((b, i) => {
              const change = (more: Partial<typeof b>) =>
                set({ breaks: form.breaks.map((x, j) => (j === i ? { ...x, ...more } : x)) });
              return (
                <div key={i} className="flex flex-wrap items-end gap-2">
                  <TextField label="Name" value={b.name} onChange={(name) => change({ name })} />
                  <DayField label="First day" value={b.from} onChange={(from) => change({ from })} />
                  <DayField label="Last day" value={b.to} onChange={(to) => change({ to })} />
                  <Button onClick={() => set({ breaks: form.breaks.filter((_, j) => j !== i) })}>
                    Remove
                  </Button>
                </div>
              );
            })}
            <Button
              onClick={() =>
                set({ breaks: [...form.breaks, { name: 'Break', from: form.termStart, to: form.termStart }] })
              }
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
              done: view.archived ? 'The course is in use again' : 'The course is put aside; nothing is lost',
              undo: () => act(() => archiveCourseAction({ code, on: view.archived })),
            })
          }
        >
          {view.archived ? 'Take the course up again' : 'Put the course aside'}
        </Button>
        <p className="text-muted">
          {view.archived
            ? 'This course is put aside: it stands last in the list, and nobody can join it.'
            : 'A course put aside keeps everything.'}
        </p>
      </Panel>
      <Units code={code} units={view.units} />
      {sheet === 'course' ? <NewCourse view={view} onClose={() => setSheet(null)} /> : null}
    </div>
  );
}

function NewCourse({ view, onClose }: { readonly view: SetupView; readonly onClose: () => void }) {
  const { termName, zone, termStart, termWeeks, breaks } = view.form;
  const [form, setForm] = useState({ code: '', title: '', termName, zone, termStart, termWeeks, breaks });
  const { busy, act } = useAct();
  const router = useRouter();
  return (
    <EditSheet
      title="Make a course"
      description="The term is that of this course; it can be changed afterwards."
      busy={busy}
      onClose={onClose}
      saveLabel="Make it"
      onSave={() =>
        act(() => newCourseAction(form), {
          then: (code) => router.push(`/c/${code}/setup?part=check`),
        })
      }
    >
      <TextField
        label="Code"
        value={form.code}
        hint="Letters, digits and hyphens, like NAV-120"
        onChange={(code) => setForm({ ...form, code })}
      />
      <TextField label="Title" value={form.title} onChange={(title) => setForm({ ...form, title })} />
    </EditSheet>
  );
}
