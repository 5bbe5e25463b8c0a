'use client';
import { X } from 'lucide-react';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect, useRef, useState } from 'react';
import { MERGE_FIELDS, type MergeField } from '@/core/messages/fields';
import { LIMITS } from '@/core/messages/limits';
import { starterFor } from '@/core/messages/starters';
import type { ComposeView } from '@/core/views/compose';
import { Button, buttonClasses } from '../parts/Button';
import { classes } from '../parts/classes';
import { Field, inputClasses, TextInput } from '../parts/Field';
import { counted } from '@/core/format';
import { LevelMark } from '../parts/Level';
import { Nothing, Panel, ViewHead } from '../parts/Panel';
import { useAct } from '../parts/useAct';
import { draftSteps, previewFor, toStepInput, type DraftStep } from './draft';
import { PlanEditor } from './PlanEditor';
import { sendMessage } from './sendMessage';

interface Props {
  readonly view: ComposeView;
  readonly reasons: Readonly<Record<number, string>>;
  readonly withPlan: boolean;
}

/** Writes one message to each of the recipients, each with their own words and plan. */
export function Compose({ view, reasons, withPlan }: Props) {
  const { code } = view.course;
  const router = useRouter();
  const { busy, act } = useAct();
  const starter = starterFor(view.sharedReason);
  // One key for this composition: sending it twice, or again after a break, never delivers twice.
  const [key] = useState(() => crypto.randomUUID());
  const [subject, setSubject] = useState(starter.subject);
  const [body, setBody] = useState(starter.body);
  const [plans, setPlans] = useState(withPlan);
  const [gone, setGone] = useState<ReadonlySet<number>>(new Set());
  const [shownId, setShownId] = useState(view.recipients[0]?.enrolmentId ?? null);
  const [edited, setEdited] = useState<ReadonlyMap<number, DraftStep[]>>(
    () => new Map(view.recipients.map((r) => [r.enrolmentId, draftSteps(r)])),
  );
  const bodyField = useRef<HTMLTextAreaElement>(null);
  useUnsavedWarning(subject !== starter.subject || body !== starter.body);

  const recipients = view.recipients.filter((r) => !gone.has(r.enrolmentId));
  const stepsOf = (id: number): DraftStep[] | null => {
    const steps = edited.get(id) ?? [];
    return plans && steps.length > 0 ? steps : null;
  };
  const previews = recipients.map((r) => ({
    recipient: r,
    ...previewFor(subject, body, r.values, stepsOf(r.enrolmentId)),
  }));
  const shown = previews.find((p) => p.recipient.enrolmentId === shownId) ?? previews[0];
  const errors = shown?.errors ?? [];
  const holes = previews.filter((p) => p.preview.subject.holes.length + p.preview.body.holes.length > 0);
  const undeliverable = recipients.filter((r) => !r.email).length;
  const tooLong = body.length > LIMITS.body;

  const insert = (field: MergeField) => {
    const area = bodyField.current;
    const at = area?.selectionStart ?? body.length;
    const text = `{${field} | }`;
    setBody(body.slice(0, at) + text + body.slice(area?.selectionEnd ?? at));
    requestAnimationFrame(() => {
      area?.focus();
      area?.setSelectionRange(at + text.length - 1, at + text.length - 1);
    });
  };
  const send = () =>
    act(
      () =>
        sendMessage(code, {
          key,
          subject,
          body,
          reason: [...new Set(recipients.map((r) => reasons[r.enrolmentId] ?? 'picked from the list'))]
            .join('; ')
            .slice(0, 300),
          recipients: recipients.map((r) => ({
            enrolmentId: r.enrolmentId,
            plan: stepsOf(r.enrolmentId)?.map(toStepInput) ?? null,
          })),
        }),
      {
        done: (sent) =>
          sent.again
            ? 'This message had been sent already; nothing was sent again.'
            : `Sent to ${counted(sent.recipients, 'student')}.`,
        then: (sent) => router.push(`/c/${code}/messages/${sent.messageId}`),
      },
    );

  if (view.recipients.length === 0) {
    return (
      <Panel>
        <Nothing title="Nobody is picked to write to">
          <p>Pick students in Rounds, one by one or all who share a reason.</p>
          <Link href={`/c/${code}/rounds`} className={buttonClasses('main')}>
            Go to Rounds
          </Link>
        </Nothing>
      </Panel>
    );
  }
  const blocked =
    recipients.length === 0 ||
    errors.length > 0 ||
    holes.length > 0 ||
    tooLong ||
    !subject.trim() ||
    !body.trim();
  return (
    <>
      <ViewHead
        title={
          recipients.length === 1
            ? `Write to ${recipients[0]!.name}`
            : `Write to ${counted(recipients.length, 'student')}, each with their own text`
        }
        aside={
          <div className="flex items-center gap-2">
            <Link href={`/c/${code}/rounds`} className={buttonClasses('quiet')}>
              Back to Rounds
            </Link>
            <Button look="main" onClick={send} disabled={busy || blocked}>
              {busy ? 'Sending …' : `Send to ${recipients.length}`}
            </Button>
          </div>
        }
      >
        {plans ? 'Each gets a short plan of their own; look it over before sending. ' : ''}
        {undeliverable > 0
          ? `${counted(undeliverable, 'student')} without an address will read it here only.`
          : 'In the application and by e-mail.'}
      </ViewHead>
      <div className="grid items-start gap-4 lg:grid-cols-2">
        <Panel className="space-y-3 p-4">
          <Field label="Subject">
            {(ids) => (
              <TextInput
                value={subject}
                maxLength={LIMITS.subject}
                onChange={(e) => setSubject(e.target.value)}
                {...ids}
              />
            )}
          </Field>
          <Field
            label="Message"
            hint="Words in braces are filled for each student; after the bar stands what to write where there is nothing to say."
            error={
              errors[0]
                ? `Line ${errors[0].line}: ${errors[0].reason}`
                : tooLong
                  ? `The message is longer than ${LIMITS.body.toLocaleString('en')} characters.`
                  : undefined
            }
          >
            {(ids) => (
              <textarea
                ref={bodyField}
                rows={13}
                className={inputClasses}
                value={body}
                onChange={(e) => setBody(e.target.value)}
                {...ids}
              />
            )}
          </Field>
          <div role="group" aria-label="Insert a merge field" className="flex flex-wrap items-center gap-1.5">
            <span className="text-muted text-[13px]">Insert</span>
            {MERGE_FIELDS.map((field) => (
              <button
                key={field}
                type="button"
                onClick={() => insert(field)}
                className="border-line bg-paper hover:border-ink rounded border px-1.5 py-0.5 text-[13px]"
              >
                {field}
              </button>
            ))}
          </div>
          <label className="flex items-center gap-2 font-semibold">
            <input
              type="checkbox"
              className="accent-teal size-4"
              checked={plans}
              onChange={(e) => setPlans(e.target.checked)}
            />
            With a study plan for each
          </label>
          {holes.length > 0 ? (
            <p role="alert" className="text-plum">
              {holes.length === 1 ? `${holes[0]!.recipient.name} has` : `${holes.length} students have`}{' '}
              nothing for “{[...holes[0]!.preview.subject.holes, ...holes[0]!.preview.body.holes][0]}”. Add a
              text after a bar, like {'{'}
              {[...holes[0]!.preview.subject.holes, ...holes[0]!.preview.body.holes][0]} | …{'}'}, or remove
              them.
            </p>
          ) : null}
        </Panel>
        <div className="space-y-3">
          <Panel className="max-h-56 overflow-auto">
            <ul aria-label="Recipients" className="divide-line divide-y">
              {previews.map(({ recipient: r, preview }) => {
                const here = r.enrolmentId === shown?.recipient.enrolmentId;
                const steps = stepsOf(r.enrolmentId);
                const hole = preview.subject.holes.length + preview.body.holes.length > 0;
                return (
                  <li
                    key={r.enrolmentId}
                    className={classes('flex items-center gap-2 px-3 py-1', here && 'bg-amber-wash/50')}
                  >
                    <button
                      type="button"
                      aria-current={here ? 'true' : undefined}
                      onClick={() => setShownId(r.enrolmentId)}
                      className="flex min-w-0 flex-1 items-baseline gap-2 text-left"
                    >
                      <span className="truncate font-semibold">{r.name}</span>
                      <span className="text-muted truncate text-xs">
                        {reasons[r.enrolmentId] ?? ''}
                        {r.active ? '' : ' · no longer active'}
                        {r.email ? '' : ' · no address'}
                        {hole ? ' · a field is empty' : ''}
                      </span>
                      {plans ? (
                        <span className="text-muted ml-auto shrink-0 text-xs">
                          {counted(steps?.length ?? 0, 'step')}
                        </span>
                      ) : null}
                    </button>
                    <button
                      type="button"
                      className="text-muted hover:text-ink grid size-6 place-items-center rounded"
                      aria-label={`Remove ${r.name}`}
                      onClick={() => setGone(new Set([...gone, r.enrolmentId]))}
                    >
                      <X className="size-3.5" aria-hidden />
                    </button>
                  </li>
                );
              })}
            </ul>
            {gone.size > 0 ? (
              <p className="text-muted border-line border-t px-3 py-1.5 text-[13px]">
                {counted(gone.size, 'student')} removed.{' '}
                <button type="button" className="text-teal font-semibold" onClick={() => setGone(new Set())}>
                  Put back
                </button>
              </p>
            ) : null}
          </Panel>
          {shown ? (
            <Panel className="space-y-3 p-4">
              <section aria-label={`What ${shown.recipient.name} will read`}>
                <p className="text-muted mb-1 text-[13px]">What {shown.recipient.name} will read</p>
                <p className="font-semibold">{shown.preview.subject.text}</p>
                <p className="mt-2 whitespace-pre-wrap">{shown.preview.body.text}</p>
              </section>
              {plans ? (
                <section
                  aria-label={`Plan for ${shown.recipient.name}`}
                  className="border-line border-t pt-3"
                >
                  <h2 className="mb-1.5 font-semibold">Plan for {shown.recipient.name}</h2>
                  <PlanEditor
                    name={shown.recipient.name}
                    steps={edited.get(shown.recipient.enrolmentId) ?? []}
                    activities={view.activities}
                    today={view.today}
                    onChange={(steps) => setEdited(new Map(edited).set(shown.recipient.enrolmentId, steps))}
                  />
                </section>
              ) : null}
              {shown.recipient.reasons.length > 0 ? (
                <ul className="text-muted border-line space-y-0.5 border-t pt-2 text-[13px]">
                  {shown.recipient.reasons.map((reason) => (
                    <li key={reason.kind} className="flex gap-1.5">
                      <LevelMark level={reason.level} /> {reason.head} {reason.rest}
                    </li>
                  ))}
                </ul>
              ) : null}
            </Panel>
          ) : (
            <Panel>
              <Nothing title="Everybody has been removed" />
            </Panel>
          )}
        </div>
      </div>
    </>
  );
}

/** Lets the browser ask before a page with written text is closed. */
function useUnsavedWarning(unsaved: boolean): void {
  useEffect(() => {
    if (!unsaved) return;
    const warn = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener('beforeunload', warn);
    return () => window.removeEventListener('beforeunload', warn);
  }, [unsaved]);
}
