'use client';
import { useState } from 'react';
import { saveRuleAction } from '@/actions/rules';
import { ACTIVITY_KINDS, isResource } from '@/core/course/kinds';
import type { RuleForm } from '@/core/forms/rule';
import { clockText } from '@/core/calendar/clock';
import { faultsIn } from '@/core/people/savedAudience';
import type { ClassAbout } from '@/core/people/traitAbout';
import { isOfWork, type Then, type When, type Which } from '@/core/unasked/rule';
import { WEEKDAYS } from '@/core/calendar/weekdays';
import { ruleSentence } from '@/core/unasked/words';
import { ConditionGroup } from '../condition/ConditionGroup';
import { MessageEditor } from '../compose/editor/MessageEditor';
import { Button } from '../parts/Button';
import { Choose } from '../parts/Choose';
import { Field, TextInput } from '../parts/Field';
import { LabelledTick } from '../parts/LabelledTick';
import { Sheet } from '../parts/Sheet';
import { TimeInput } from '../parts/TimeInput';
import { useAct } from '../parts/useAct';

const WHENS: readonly { readonly value: When['on']; readonly label: string }[] = [
  { value: 'graded', label: 'An assignment is graded' },
  { value: 'due', label: 'An assignment is due in a while' },
  { value: 'holds', label: 'Something has become true' },
  { value: 'step overdue', label: 'A step of a plan is overdue' },
  { value: 'plan finished', label: 'A plan is finished' },
  { value: 'weekly', label: 'Each week' },
];

const ANY: Which = { any: true };
const whichOf = (when: When): Which => ('which' in when ? when.which : ANY);

function begin(on: When['on'], before: When): When {
  switch (on) {
    case 'graded':
      return { on, which: whichOf(before) };
    case 'due':
      return { on, which: whichOf(before), hours: 48 };
    case 'holds':
      return { on, days: 0 };
    case 'weekly':
      return { on, weekday: 1, minute: 9 * 60 };
    default:
      return { on };
  }
}

/** The text of a rule; of one of their own also when it looks, at whom, and what it does. */
export function RuleSheet({
  code,
  about,
  form,
  onClose,
}: {
  readonly code: string;
  readonly about: ClassAbout;
  readonly form: RuleForm;
  readonly onClose: () => void;
}) {
  const { busy, act } = useAct();
  const [opened] = useState(form);
  const [name, setName] = useState(form.name);
  const [when, setWhen] = useState(form.parts.when);
  const [where, setWhere] = useState(form.parts.where);
  const [then, setThen] = useState(form.parts.then);
  const own = form.starter == null;
  const course = { ...about, ofWork: isOfWork(when) };
  const faults = faultsIn(where, course);
  const save = () => {
    const rule = { ...opened, name, parts: { ...opened.parts, when, where, then } };
    const over = (was: object | null) => saveRuleAction({ code, rule, was });
    act(() => over(rule.id == null ? null : opened), {
      done: `“${name.trim()}” is saved.`,
      then: onClose,
      edit: { mine: rule, over },
    });
  };
  return (
    <Sheet
      open
      wide
      onOpenChange={(o) => !o && onClose()}
      title={own ? 'A rule of your own' : `The text of “${form.name}”`}
      description="A text by a rule states no minutes and supposes no laziness: little recorded time may be work on paper."
    >
      <div className="space-y-4">
        {own ? (
          <>
            <Field label="Name">
              {(field) => (
                <TextInput {...field} maxLength={80} value={name} onChange={(e) => setName(e.target.value)} />
              )}
            </Field>
            <WhenFields about={about} when={when} onChange={setWhen} />
            <fieldset>
              <legend className="text-sm font-semibold">Of whom</legend>
              <ConditionGroup where={where} course={course} place="" onChange={setWhere} />
            </fieldset>
            <p className="text-muted">{ruleSentence({ ...form.parts, when, where, then }, about)}</p>
            {faults.map((fault) => (
              <p key={fault} role="alert" className="text-plum">
                {fault}
              </p>
            ))}
            <ThenFields then={then} onChange={setThen} />
          </>
        ) : null}
        <Field label="Subject">
          {(field) => (
            <TextInput
              {...field}
              maxLength={200}
              value={then.subject}
              onChange={(e) => setThen({ ...then, subject: e.target.value })}
            />
          )}
        </Field>
        <MessageEditor
          label={then.do === 'word' ? 'The draft' : 'Message'}
          doc={then.doc}
          course={about}
          onChange={(doc) => setThen((now) => ({ ...now, doc }))}
        />
        <Button look="main" disabled={busy || name.trim() === '' || faults.length > 0} onClick={save}>
          Save
        </Button>
      </div>
    </Sheet>
  );
}

function WhenFields({
  about,
  when,
  onChange,
}: {
  readonly about: ClassAbout;
  readonly when: When;
  readonly onChange: (when: When) => void;
}) {
  const which = whichOf(when);
  const value = 'any' in which ? 'any' : 'kind' in which ? `kind ${which.kind}` : `work ${which.work}`;
  return (
    <div className="flex flex-wrap items-end gap-3">
      <Field label="When">
        {(field) => (
          <Choose
            {...field}
            className="w-64"
            value={when.on}
            options={WHENS}
            onChange={(on) => onChange(begin(on, when))}
          />
        )}
      </Field>
      {when.on === 'graded' || when.on === 'due' ? (
        <Field label="Which">
          {(field) => (
            <Choose
              {...field}
              className="w-56"
              value={value}
              options={[
                { value: 'any', label: 'Any assignment' },
                ...ACTIVITY_KINDS.filter((k) => !isResource(k)).map((k) => ({
                  value: `kind ${k}`,
                  label: `Every ${k}`,
                })),
                ...about.works.map((w) => ({ value: `work ${w.id}`, label: w.title })),
              ]}
              onChange={(next) => {
                const kind = ACTIVITY_KINDS.find((k) => next === `kind ${k}`);
                const work = about.works.find((w) => next === `work ${w.id}`);
                onChange({ ...when, which: kind ? { kind } : work ? { work: work.id } : ANY });
              }}
            />
          )}
        </Field>
      ) : null}
      {when.on === 'due' ? (
        <NumberIn
          label="Hours before"
          value={when.hours}
          onChange={(hours) => onChange({ ...when, hours })}
        />
      ) : null}
      {when.on === 'holds' ? (
        <NumberIn
          label="Days that it has held"
          value={when.days}
          onChange={(days) => onChange({ ...when, days })}
        />
      ) : null}
      {when.on === 'weekly' ? (
        <>
          <Field label="Day">
            {(field) => (
              <Choose
                {...field}
                className="w-40"
                value={String(when.weekday)}
                options={WEEKDAYS.map((day, i) => ({ value: String(i + 1), label: day }))}
                onChange={(day) => onChange({ ...when, weekday: Number(day) })}
              />
            )}
          </Field>
          <Field label={`Time, now ${clockText(when.minute)}`}>
            {(field) => (
              <TimeInput
                {...field}
                className="w-24"
                value={when.minute}
                onChange={(minute) => onChange({ ...when, minute })}
              />
            )}
          </Field>
        </>
      ) : null}
    </div>
  );
}

function NumberIn({
  label,
  value,
  onChange,
}: {
  readonly label: string;
  readonly value: number;
  readonly onChange: (value: number) => void;
}) {
  return (
    <Field label={label} className="w-40">
      {(field) => (
        <TextInput
          {...field}
          type="number"
          min={0}
          value={Number.isFinite(value) ? value : ''}
          onChange={(e) => onChange(e.target.valueAsNumber)}
        />
      )}
    </Field>
  );
}

function ThenFields({ then, onChange }: { readonly then: Then; readonly onChange: (then: Then) => void }) {
  const tick = (label: string, on: boolean, set: (on: boolean) => void) => (
    <LabelledTick label={label} checked={on} onChange={set} />
  );
  return (
    <div className="space-y-1.5">
      <Field label="Then">
        {(field) => (
          <Choose
            {...field}
            className="w-72"
            value={then.do}
            options={[
              { value: 'message', label: 'Write to the student' },
              { value: 'word', label: 'Tell me, with a draft ready' },
            ]}
            onChange={(what) => onChange({ ...then, do: what })}
          />
        )}
      </Field>
      {then.do === 'message'
        ? tick('Ask me first', then.approve, (approve) => onChange({ ...then, approve }))
        : null}
      {tick('With the plan that is proposed for them', then.withPlan, (withPlan) =>
        onChange({ ...then, withPlan }),
      )}
      {tick('Offer the times at which I can be seen', then.offersTalk, (offersTalk) =>
        onChange({ ...then, offersTalk }),
      )}
    </div>
  );
}
