'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { retryAction } from '@/actions/messages';
import type { MailState } from '@/core/messages/mailState';
import type { CopyView, MessageView } from '@/core/views/messages';
import { Button } from '../parts/Button';
import { TextInput } from '../parts/Field';
import { counted, dayAndTime } from '@/core/format';
import { Panel, ViewHead } from '../parts/Panel';
import { useAct } from '../parts/useAct';

const STATES: Record<MailState, string> = {
  queued: 'waiting to go out',
  sending: 'on its way',
  sent: 'sent',
  failed: 'did not arrive',
  unsure: 'may not have arrived',
  'no address': 'no address',
};
const onTheWay = (c: CopyView) => c.state === 'queued' || c.state === 'sending';
const stuck = (c: CopyView) => c.state === 'failed' || c.state === 'unsure' || c.state === 'no address';

/** One message: each recipient's own text, whether it arrived and was read, and another try where it did not. */
export function MessageDetail({
  code,
  zone,
  message,
}: {
  readonly code: string;
  readonly zone: string;
  readonly message: MessageView;
}) {
  const router = useRouter();
  const waiting = message.copies.filter(onTheWay).length;
  const failed = message.copies.filter(stuck).length;
  useEffect(() => {
    if (waiting === 0) return;
    const timer = setInterval(() => router.refresh(), 1500);
    return () => clearInterval(timer);
  }, [waiting, router]);
  const title = headline(message.copies.length, waiting, failed);
  return (
    <>
      <ViewHead
        title={title}
        aside={
          <Link href={`/c/${code}/messages`} className="text-teal font-semibold hover:underline">
            All messages
          </Link>
        }
      >
        “{message.subject}”, {message.by}, {dayAndTime(message.at, zone)}. Because: {message.reason}.
      </ViewHead>
      <Panel>
        <ul aria-label="Recipients" className="divide-line divide-y">
          {message.copies.map((copy) => (
            <Copy key={`${copy.recipientId}-${copy.state}`} code={code} zone={zone} copy={copy} />
          ))}
        </ul>
      </Panel>
    </>
  );
}

function headline(all: number, waiting: number, failed: number): string {
  if (waiting > 0)
    return `${counted(all, 'student')} can read it now; ${counted(waiting, 'e-mail')} on the way`;
  if (all === 1) return failed > 0 ? 'The e-mail did not arrive' : 'The e-mail went out';
  return failed > 0
    ? `${all - failed} of ${all} e-mails went out, ${failed} did not arrive`
    : `All ${all} e-mails went out`;
}

function Copy({
  code,
  zone,
  copy,
}: {
  readonly code: string;
  readonly zone: string;
  readonly copy: CopyView;
}) {
  const { busy, act } = useAct();
  const [email, setEmail] = useState(copy.email ?? '');
  return (
    <li className="px-4 py-2.5">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <Link href={`/c/${code}/students/${copy.enrolmentId}`} className="font-semibold hover:underline">
          {copy.name}
        </Link>
        <span className="text-muted text-[13px] break-all">{copy.email ?? 'no address'}</span>
        <span className="ml-auto flex items-baseline gap-4 text-[13px]">
          <span className={copy.readAt == null ? 'text-muted' : 'text-teal font-semibold'}>
            {copy.readAt == null ? 'not read yet' : `read ${dayAndTime(copy.readAt, zone)}`}
          </span>
          <span className={stuck(copy) ? 'text-plum font-semibold' : undefined}>
            e-mail: {STATES[copy.state]}
          </span>
          {copy.kept ? (
            <a
              href={`/api/mail/${copy.recipientId}`}
              download
              className="text-teal font-semibold hover:underline"
            >
              .eml<span className="sr-only"> of {copy.name}</span>
            </a>
          ) : null}
        </span>
      </div>
      {stuck(copy) ? (
        <form
          className="mt-2 flex flex-wrap items-center gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            act(() => retryAction({ code, recipient: copy.recipientId, email }), {
              done: ({ proposed }) =>
                `Trying ${copy.name} again.${proposed ? ' For good, the address is proposed: other courses rely on the old one.' : ''}`,
            });
          }}
        >
          <span className="text-plum max-w-xl text-[13px]">{copy.error}</span>
          <TextInput
            type="email"
            aria-label={`Address of ${copy.name}`}
            className="max-w-80"
            value={email}
            onChange={(e) => setEmail(e.target.value)}
          />
          <Button type="submit" disabled={busy}>
            Try again
          </Button>
        </form>
      ) : null}
      {copy.error && !stuck(copy) ? <p className="text-muted text-[13px]">{copy.error}</p> : null}
      <details className="mt-1 text-[13px]">
        <summary className="text-muted hover:text-ink w-fit">
          Own text{copy.hasPlan ? ', with a plan' : ''}
        </summary>
        <p className="mt-1 font-semibold">{copy.subject}</p>
        <p className="mt-1 max-w-prose whitespace-pre-wrap">{copy.body}</p>
      </details>
    </li>
  );
}
