'use client';
import { useId } from 'react';
import type { TextForm } from '@/core/forms/message';
import { LIMITS } from '@/core/messages/limits';
import type { ClassAbout } from '@/core/people/traitAbout';
import { Field, TextInput } from '../parts/Field';
import { MessageEditor } from './editor/MessageEditor';

/** Subject and message; what is wrong with them stands below. */
export function TextFields({
  text,
  course,
  plain,
  fault,
  onChange,
}: {
  readonly text: TextForm;
  readonly course: ClassAbout;
  readonly plain?: boolean;
  readonly fault: string | null;
  readonly onChange: (text: TextForm) => void;
}) {
  const note = useId();
  return (
    <>
      <Field label="Subject" className="space-y-1">
        {(ids) => (
          <TextInput
            {...ids}
            maxLength={LIMITS.subject}
            value={text.subject}
            onChange={(e) => onChange({ ...text, subject: e.target.value })}
          />
        )}
      </Field>
      <div className="space-y-1">
        <p className="text-sm font-semibold">Message</p>
        <MessageEditor
          label="Message"
          doc={text.doc}
          course={course}
          plain={plain}
          describedBy={note}
          onChange={(doc) => onChange({ ...text, doc })}
        />
        <p
          id={note}
          className={fault ? 'text-plum text-sm' : 'text-muted text-sm'}
          role={fault ? 'alert' : undefined}
        >
          {fault ??
            (plain
              ? 'For this student alone.'
              : 'Fields are filled in for each student. Select one to say what stands there where it is empty.')}
        </p>
      </div>
    </>
  );
}
