'use client';
import { useState } from 'react';
import { saveSectionAction } from '@/actions/setup';
import { WEEKDAYS } from '@/core/calendar/weekdays';
import type { SectionForm, SetupView } from '@/core/views/setup';
import { Button } from '../parts/Button';
import { Panel } from '../parts/Panel';
import { Cell, Table } from '../parts/Table';
import { EditSheet } from './EditSheet';
import { ClockField, clockText, DayField, NumberField, SelectField, TextField } from './fields';
import { useEdited } from './useEdited';

const EMPTY: SectionForm = { id: null, name: '', meetings: [], exceptions: [] };

/** Sections with when they meet: what of a student's time counts as in class. */
export function Sections({ view }: { readonly view: SetupView }) {
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
  const { form, set, sheet } = useEdited(section, {
    code,
    what: 'section',
    save: (edited) => saveSectionAction({ code, form: edited }),
    onClose,
  });
  const meeting = (i: number, more: Partial<SectionForm['meetings'][number]>) =>
    set({ meetings: form.meetings.map((m, j) => (j === i ? { ...m, ...more } : m)) });
  const exception = (i: number, more: Partial<SectionForm['exceptions'][number]>) =>
    set({ exceptions: form.exceptions.map((e, j) => (j === i ? { ...e, ...more } : e)) });
  return (
    <EditSheet
      title={section.id == null ? 'Add a section' : `Section ${section.name}`}
      description="Time on task in a meeting counts as in class; saving cuts the days of its students anew."
      {...sheet}
    >
      <TextField label="Name" value={form.name} onChange={(name) => set({ name })} />
      {form.meetings.map((m, i) => (
        <div key={i} className="flex flex-wrap items-end gap-2">
          <SelectField
            label="Weekday"
            value={m.weekday}
            options={WEEKDAYS.map((label, d) => ({ value: d + 1, label }))}
            onChange={(weekday) => meeting(i, { weekday })}
          />
          <ClockField
            label="From"
            value={m.startMinute}
            onChange={(startMinute) => meeting(i, { startMinute })}
          />
          <div className="w-24">
            <NumberField
              label="Minutes"
              value={m.minutes}
              step={1}
              onChange={(n) => meeting(i, { minutes: n ?? 0 })}
            />
          </div>
          <Button onClick={() => set({ meetings: form.meetings.filter((_, j) => j !== i) })}>Remove</Button>
        </div>
      ))}
      {form.exceptions.map((e, i) => (
        <div key={i} className="flex flex-wrap items-end gap-2">
          <DayField label="On" value={e.on} onChange={(on) => exception(i, { on })} />
          <SelectField
            label="It"
            value={e.instead ? 'meets at' : 'does not meet'}
            options={[
              { value: 'does not meet', label: 'does not meet' },
              { value: 'meets at', label: 'meets at another hour' },
            ]}
            onChange={(what) =>
              exception(i, {
                instead: what === 'meets at' ? { startMinute: 18 * 60, minutes: 120 } : null,
              })
            }
          />
          {e.instead ? (
            <>
              <ClockField
                label="From"
                value={e.instead.startMinute}
                onChange={(startMinute) => exception(i, { instead: { ...e.instead!, startMinute } })}
              />
              <div className="w-24">
                <NumberField
                  label="Minutes"
                  value={e.instead.minutes}
                  step={1}
                  onChange={(n) => exception(i, { instead: { ...e.instead!, minutes: n ?? 0 } })}
                />
              </div>
            </>
          ) : null}
          <Button onClick={() => set({ exceptions: form.exceptions.filter((_, j) => j !== i) })}>
            Remove
          </Button>
        </div>
      ))}
      <div className="flex gap-2">
        <Button
          onClick={() =>
            set({ meetings: [...form.meetings, { weekday: 1, startMinute: 18 * 60, minutes: 120 }] })
          }
        >
          Add a meeting
        </Button>
        <Button onClick={() => set({ exceptions: [...form.exceptions, { on: '', instead: null }] })}>
          Add an exception
        </Button>
      </div>
    </EditSheet>
  );
}
