'use client';
import { saveStudentAction } from '@/actions/setup';
import type { StudentForm } from '@/core/views/setup';
import { counted } from '@/core/format';
import { EditSheet } from './EditSheet';
import { SelectField, TextField } from './fields';
import { PROPOSED, useEdited } from './useEdited';

/** One student added by hand, or what is on record about them mended. */
export function StudentSheet({
  code,
  sections,
  student,
  person = null,
  onClose,
}: {
  readonly code: string;
  readonly sections: readonly { readonly id: number | null; readonly name: string }[];
  readonly student: StudentForm;
  /** What a source calls them, if rows of theirs wait. */
  readonly person?: string | null;
  readonly onClose: () => void;
}) {
  const { form, set, sheet } = useEdited(student, {
    code,
    save: (edited) => saveStudentAction({ code, form: edited, person }),
    done: ({ rows, proposed }) =>
      `${rows > 0 ? `; ${counted(rows, 'row')} that waited went in` : ''}${proposed ? PROPOSED : ''}`,
    onClose,
  });
  const added = student.id == null;
  return (
    <EditSheet
      title={added ? 'Add a student' : `${student.given} ${student.family}`}
      description={
        added
          ? 'For one who came late. Many at once come by a roster file.'
          : 'It changes in every course they are in; the section only here. Where courses of others rely on it, the change is proposed to whoever runs the installation.'
      }
      {...sheet}
    >
      <div className="grid grid-cols-2 gap-3">
        <TextField label="Given name" value={form.given} onChange={(given) => set({ given })} />
        <TextField label="Family name" value={form.family} onChange={(family) => set({ family })} />
        <TextField
          label="Id"
          hint="As files and other systems have it"
          value={form.externalId}
          onChange={(externalId) => set({ externalId })}
        />
        <SelectField
          label="Section"
          value={form.sectionId ?? 0}
          options={[
            { value: 0, label: 'none' },
            ...sections.map((s) => ({ value: s.id ?? 0, label: s.name })),
          ]}
          onChange={(id) => set({ sectionId: id === 0 ? null : id })}
        />
      </div>
      <TextField
        label="E-mail address"
        hint="Empty if there is none: messages then stand on their own page only"
        value={form.email ?? ''}
        onChange={(text) => set({ email: text.trim() === '' ? null : text })}
      />
    </EditSheet>
  );
}
