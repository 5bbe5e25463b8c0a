'use client';
import { useState } from 'react';
import { answerAction, readAction } from '@/actions/student';
import type { OwnMessage } from '@/core/views/student';
import { dayAndTime } from '@/core/format';
import { Button } from '../parts/Button';
import { DocText } from '../parts/DocText';
import { TextField } from '../parts/fields';
import { Panel } from '../parts/Panel';
import { useAct } from '../parts/useAct';
import { useYupForm } from '../parts/useYupForm';
import { talksOf } from './TalkCard';

const loadAnswerForm = () => import('@/core/forms/answer').then((m) => m.answerForm);

/** One message to the student, with what they answered. It counts as read when it is opened. */
export function MessageCard({
  course,
  message,
  zone,
}: {
  readonly course: string;
  readonly message: OwnMessage;
  readonly zone: string;
}) {
  const { act } = useAct();
  const [open, setOpen] = useState(false);
  const unread = message.readAt == null;
  const toggle = () => {
    if (!open && unread) act(() => readAction({ recipient: message.recipientId }));
    setOpen(!open);
  };
  return (
    <Panel className={unread ? 'border-l-amber border-l-4' : undefined}>
      <button
        type="button"
        aria-expanded={open}
        onClick={toggle}
        className="flex w-full flex-wrap items-baseline justify-between gap-x-4 px-5 py-3 text-left"
      >
        <span className={unread ? 'font-semibold' : undefined}>
          {message.subject}
          {unread ? <span className="text-teal ml-2 text-xs font-semibold">new</span> : null}
        </span>
        <span className="text-muted text-[13px]">
          {message.from} ({message.address}), {dayAndTime(message.at, zone)}
          {message.answers.length > 0 ? ' · answered' : ''}
        </span>
      </button>
      {open ? (
        <div className="max-w-prose space-y-4 px-5 pb-4">
          <DocText doc={message.doc} />
          {message.offersTalk ? (
            <p>
              <a href={`#${talksOf(course)}`} className="text-teal font-semibold underline">
                Choose a time for a talk
              </a>
            </p>
          ) : null}
          {message.why ? <p className="text-muted text-[13px]">{message.why}</p> : null}
          {message.answers.length > 0 ? (
            <ul aria-label="Your answers" className="space-y-2">
              {message.answers.map((answer) => (
                <li key={answer.id} className="border-amber border-l-3 pl-3">
                  <p className="text-muted text-[13px]">
                    You, {dayAndTime(answer.at, zone)}
                    {answer.via === 'mail' ? ', by e-mail' : ''}
                  </p>
                  <p className="break-words whitespace-pre-wrap">{answer.body}</p>
                </li>
              ))}
            </ul>
          ) : null}
          <AnswerForm key={message.answers.length} message={message} />
        </div>
      ) : null}
    </Panel>
  );
}

function AnswerForm({ message }: { readonly message: OwnMessage }) {
  const { busy, act } = useAct();
  const [key] = useState(() => crypto.randomUUID());
  const { control, handleSubmit } = useYupForm(loadAnswerForm, {
    recipient: message.recipientId,
    key,
    text: '',
  });
  return (
    <form
      className="space-y-2"
      onSubmit={(e) =>
        void handleSubmit((form) =>
          act(() => answerAction(form), { done: `${message.from} will read your answer.` }),
        )(e)
      }
    >
      <TextField control={control} name="text" label={`Answer ${message.from}`} lines={3} />
      <Button type="submit" look="main" disabled={busy}>
        {busy ? 'Sending …' : 'Send the answer'}
      </Button>
    </form>
  );
}
