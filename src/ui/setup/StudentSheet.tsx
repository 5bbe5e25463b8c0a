'use client';
import { saveStudentAction } from '@/actions/setup';
import type { StudentForm } from '@/core/forms/setup';
import { counted } from '@/core/format';
import { EditSheet } from './EditSheet';
import { SelectField, TextField } from '../parts/fields';
import { PROPOSED, useEdited } from './useEdited';

const loadStudentForm = () => import('@/core/forms/setup').then((m) => m.studentForm);

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
  const { control, sheet } = useEdited(loadStudentForm, student, {
    code,
    save: (edited, was) => saveStudentAction({ code, form: edited, person, was }),
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
        <TextField control={control} name="given" label="Given name" />
        <TextField control={control} name="family" label="Family name" />
        <TextField control={control} name="externalId" label="Id" hint="As files and other systems have it" />
        <SelectField
          control={control}
          name="sectionId"
          label="Section"
          options={[{ value: null, label: 'none' }, ...sections.map((s) => ({ value: s.id, label: s.name }))]}
        />
      </div>
      <TextField
        control={control}
        name="email"
        label="E-mail address"
        orNull
        hint="Empty if there is none: messages then stand on their own page only"
      />
    </EditSheet>
  );
}
