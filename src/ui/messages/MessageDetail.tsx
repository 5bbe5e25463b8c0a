'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { callBackAction, retryAction } from '@/actions/messages';
import { hasNotArrived, isOnTheWay, MAIL_SAYS } from '@/core/messages/mailState';
import type { CopyView, MessageView } from '@/core/views/messages';
import { Button } from '../parts/Button';
import { TextInput } from '../parts/Field';
import { counted, dayAndTime, weekdayAndTime } from '@/core/format';
import { DocText } from '../parts/DocText';
import { Panel, ViewHead } from '../parts/Panel';
import { useAct } from '../parts/useAct';

const onTheWay = (c: CopyView) => isOnTheWay(c.state);
const stuck = (c: CopyView) => hasNotArrived(c.state);

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
  const { busy, act } = useAct();
  const waits = message.goesAt != null;
  const waiting = message.copies.filter(onTheWay).length;
  const failed = message.copies.filter(stuck).length;
  useEffect(() => {
    // What goes at a time of its own is not watched for.
    if (waiting === 0 && !waits) return;
    const timer = setInterval(() => router.refresh(), 1500);
    return () => clearInterval(timer);
  }, [waiting, waits, router]);
  const title = waits
    ? `Goes to ${counted(message.copies.length, 'student')} on ${weekdayAndTime(message.goesAt, zone)}`
    : headline(message.copies, waiting, failed);
  return (
    <>
      <ViewHead
        title={title}
        aside={
          <div className="flex items-center gap-3">
            {waits && message.isOwn ? (
              <Button
                look="main"
                disabled={busy}
                onClick={() =>
                  act(() => callBackAction({ code, message: message.id }), {
                    done: 'Called back: nothing was sent.',
                    then: () => router.push(`/c/${code}/compose?back=1`),
                  })
                }
              >
                Call it back
              </Button>
            ) : null}
            <Link href={`/c/${code}/messages`} className="text-teal font-semibold hover:underline">
              All messages
            </Link>
          </div>
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

function headline(copies: readonly CopyView[], waiting: number, failed: number): string {
  const all = copies.length;
  if (waiting > 0)
    return `${counted(all, 'student')} can read it now; ${counted(waiting, 'e-mail')} on the way`;
  const mailed = copies.filter((c) => c.state === 'sent').length + failed;
  if (mailed === 0) return all === 1 ? 'They can read it here' : `${all} students can read it here`;
  if (mailed === 1) return failed > 0 ? 'The e-mail did not arrive' : 'The e-mail went out';
  return failed > 0
    ? `${mailed - failed} of ${mailed} e-mails went out, ${failed} did not arrive`
    : `All ${mailed} e-mails went out`;
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
            e-mail: {MAIL_SAYS[copy.state]}
          </span>
          <a
            // As it went over the wire where that is kept, else as it stands here.
            href={
              copy.kept
                ? `/api/mail/${copy.recipientId}`
                : `/api/courses/${code}/contacts/${copy.recipientId}.eml`
            }
            download
            className="text-teal font-semibold hover:underline"
          >
            .eml<span className="sr-only"> of {copy.name}</span>
          </a>
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
        <div className="mt-1 max-w-prose">
          <DocText doc={copy.doc} />
        </div>
      </details>
    </li>
  );
}
