'use client';
import { useEffect, useState } from 'react';
import { readConversationAction } from '@/actions/messages';

/** Says that what is new in a conversation has been opened, once it is on screen. */
export function Opened({
  code,
  student,
  unread,
}: {
  readonly code: string;
  readonly student: number;
  readonly unread: boolean;
}) {
  useEffect(() => {
    // Without an answer it stays unread, and is said again the next time.
    if (unread) void readConversationAction({ code, student }).catch(() => undefined);
  }, [code, student, unread]);
  return null;
}

/** Marks what was new when the page was opened, for as long as it is. */
export function NewMark({ isNew }: { readonly isNew: boolean }) {
  const [was] = useState(isNew);
  return was ? <span className="text-teal font-semibold"> · new</span> : null;
}
