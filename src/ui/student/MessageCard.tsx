'use client';
import { useState } from 'react';
import { readAction } from '@/actions/student';
import type { OwnMessage } from '@/core/views/student';
import { dayAndTime } from '@/core/format';
import { Panel } from '../parts/Panel';
import { useAct } from '../parts/useAct';

/** One message to the student. It counts as read when it is opened. */
export function MessageCard({ message, zone }: { readonly message: OwnMessage; readonly zone: string }) {
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
        </span>
      </button>
      {open ? <p className="max-w-prose px-5 pb-4 whitespace-pre-wrap">{message.body}</p> : null}
    </Panel>
  );
}
