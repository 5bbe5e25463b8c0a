'use client';
import { useState } from 'react';
import { useController, useFieldArray, type Control } from 'react-hook-form';
import { saveSectionAction } from '@/actions/setup';
import { WEEKDAYS } from '@/core/calendar/weekdays';
import type { SectionForm } from '@/core/forms/setup';
import type { SetupView } from '@/core/views/setup';
import { Button } from '../parts/Button';
import { Choose } from '../parts/Choose';
import { Field } from '../parts/Field';
import { Panel } from '../parts/Panel';
import { Cell, Table } from '../parts/Table';
import { EditRow } from './EditRow';
import { EditSheet } from './EditSheet';
import { clockText } from '@/core/calendar/clock';
import { ClockField, DayField, NumberField, SelectField, TextField } from '../parts/fields';
import { useEdited } from './useEdited';

const loadSectionForm = () => import('@/core/forms/setup').then((m) => m.sectionForm);

/** What a meeting begins as, until it is told. */
const USUAL_HOUR = { startMinute: 18 * 60, minutes: 120 };
const EMPTY: SectionForm = { id: null, name: '', meetings: [], exceptions: [] };

/** What of the setup is drawn here. */
type Drawn = Pick<SetupView, 'course' | 'sections' | 'students'>;

/** Sections with when they meet: what of a student's time counts as in class. */
export function Sections({ view }: { readonly view: Drawn }) {
  const [edited, setEdited] = useState<SectionForm | null>(null);
  const inIt = (id: number | null) =>
    view.students.filter((s) => s.sectionId === id && s.status === 'active').length;
  return (
    <Panel>
      <Table
        head={[
          { label: 'Section' },
          { label: 'Meets' },
          { label: 'Exceptions' },
          { label: 'Students', right: true },
          { label: '' },
        ]}
      >
        {view.sections.map((s) => (
          <tr key={s.id}>
            <Cell className="font-semibold">{s.name}</Cell>
            <Cell>
              {s.meetings.length === 0
                ? 'never'
                : s.meetings
                    .map((m) => `${WEEKDAYS[m.weekday - 1]} ${clockText(m.startMinute)}, ${m.minutes} min`)
                    .join('; ')}
            </Cell>
            <Cell className="text-muted">{s.exceptions.length === 0 ? 'none' : s.exceptions.length}</Cell>
            <Cell className="text-right">{inIt(s.id)}</Cell>
            <Cell className="text-right">
              <Button small onClick={() => setEdited(s)} aria-label={`Change ${s.name}`}>
                Change
              </Button>
            </Cell>
          </tr>
        ))}
      </Table>
      <div className="border-line border-t p-3">
        <Button onClick={() => setEdited(EMPTY)}>Add a section</Button>
      </div>
      {edited ? (
        <SectionSheet code={view.course.code} section={edited} onClose={() => setEdited(null)} />
      ) : null}
    </Panel>
  );
}

function SectionSheet({
  code,
  section,
  onClose,
}: {
  readonly code: string;
  readonly section: SectionForm;
  readonly onClose: () => void;
}) {
  const { control, sheet } = useEdited(loadSectionForm, section, {
    code,
    what: 'section',
    save: (edited, was) => saveSectionAction({ code, form: edited, was }),
    onClose,
  });
  const meetings = useFieldArray({ control, name: 'meetings' });
  const exceptions = useFieldArray({ control, name: 'exceptions' });
  return (
    <EditSheet
      title={section.id == null ? 'Add a section' : `Section ${section.name}`}
      description="Time on task in a meeting counts as in class; saving cuts the days of its students anew."
      {...sheet}
    >
      <TextField control={control} name="name" label="Name" />
      {meetings.fields.map((m, i) => (
        <EditRow key={m.id} label={`Meeting ${i + 1}`} onRemove={() => meetings.remove(i)}>
          <SelectField
            control={control}
            name={`meetings.${i}.weekday`}
            label="Weekday"
            options={WEEKDAYS.map((label, d) => ({ value: d + 1, label }))}
          />
          <ClockField control={control} name={`meetings.${i}.startMinute`} label="From" />
          <NumberField control={control} name={`meetings.${i}.minutes`} label="Minutes" className="w-24" />
        </EditRow>
      ))}
      {exceptions.fields.map((e, i) => (
        <EditRow key={e.id} label={`Exception ${i + 1}`} onRemove={() => exceptions.remove(i)}>
          <DayField control={control} name={`exceptions.${i}.on`} label="On" />
          <Instead control={control} at={i} />
        </EditRow>
      ))}
      <div className="flex gap-2">
        <Button onClick={() => meetings.append({ weekday: 1, ...USUAL_HOUR })}>Add a meeting</Button>
        <Button onClick={() => exceptions.append({ on: '', instead: null })}>Add an exception</Button>
      </div>
    </EditSheet>
  );
}

/** Whether a meeting is held on a day that is unlike the others, and when. */
function Instead({
  control,
  at,
}: {
  readonly control: Control<SectionForm, unknown, SectionForm>;
  readonly at: number;
}) {
  const { field } = useController({ control, name: `exceptions.${at}.instead` });
  return (
    <>
      <Field label="It">
        {(ids) => (
          <Choose
            {...ids}
            ref={field.ref}
            value={field.value ? 'meets' : 'none'}
            options={[
              { value: 'none', label: 'does not meet' },
              { value: 'meets', label: 'meets at another hour' },
            ]}
            onChange={(what) => field.onChange(what === 'meets' ? USUAL_HOUR : null)}
          />
        )}
      </Field>
      {field.value ? (
        <>
          <ClockField control={control} name={`exceptions.${at}.instead.startMinute`} label="From" />
          <NumberField
            control={control}
            name={`exceptions.${at}.instead.minutes`}
            label="Minutes"
            className="w-24"
          />
        </>
      ) : null}
    </>
  );
}
