import Link from 'next/link';
import { dayAndTime } from '@/core/format';
import { MAIL_SAYS } from '@/core/messages/mailState';
import type { ConversationView, Said } from '@/core/views/conversation';
import { buttonClasses } from '../parts/Button';
import { classes } from '../parts/classes';
import { DocText } from '../parts/DocText';
import { Nothing, Panel, ViewHead } from '../parts/Panel';
import { FollowUpBar } from './FollowUpBar';
import { NewMark, Opened } from './Opened';

interface Props {
  readonly code: string;
  readonly zone: string;
  readonly conversation: ConversationView;
}

/** What was said between a student and those who teach them, the latest last. */
export function Conversation({ code, zone, conversation: c }: Props) {
  const last = c.said.at(-1);
  return (
    <>
      <Opened
        code={code}
        student={c.enrolmentId}
        unread={c.said.some((said) => said.by === 'student' && said.isNew)}
      />
      <ViewHead
        title={
          !c.isLatest
            ? `Earlier messages with ${c.name}`
            : last == null
              ? `Nothing has been said between you and ${c.name} yet`
              : last.by === 'student'
                ? `${c.name} answered ${dayAndTime(last.at, zone)}`
                : `${c.name} has not answered since ${dayAndTime(last.at, zone)}`
        }
        aside={
          <div className="flex flex-wrap items-center gap-2">
            <Link href={`/c/${code}/messages?show=answers`} className={buttonClasses('quiet')}>
              All conversations
            </Link>
            {c.next == null ? null : (
              <Link href={`/c/${code}/conversations/${c.next}`} className={buttonClasses('plain')}>
                Next unread
              </Link>
            )}
            <Link href={`/c/${code}/compose?student=${c.enrolmentId}`} className={buttonClasses('main')}>
              Write back
            </Link>
          </div>
        }
      >
        <Link
          href={`/c/${code}/students/${c.enrolmentId}`}
          className="text-teal font-semibold hover:underline"
        >
          {c.name}
        </Link>
        {c.section ? `, ${c.section}` : ''}
        {c.email ? `, ${c.email}` : ', no address'}
      </ViewHead>
      {c.mailFault ? (
        <p role="status" className="text-plum mb-3 font-semibold">
          Mail to this address does not arrive since {dayAndTime(c.mailFault.at, zone)}: {c.mailFault.why}
        </p>
      ) : null}
      {c.followUp ? <FollowUpBar code={code} today={c.today} followUp={c.followUp} /> : null}
      {c.said.length === 0 ? (
        <Panel>
          <Nothing title="Write first">
            <p>What you send, and what comes back here or by e-mail, stands here in one place.</p>
          </Nothing>
        </Panel>
      ) : (
        <>
          {c.earlier == null ? null : (
            <p className="mb-3">
              <Link
                href={`/c/${code}/conversations/${c.enrolmentId}?before=${c.earlier}`}
                className={buttonClasses('plain')}
              >
                Earlier messages
              </Link>
            </p>
          )}
          <ol aria-label="What was said" className="space-y-3">
            {c.said.map((said) => (
              <li key={said.key} className={classes('max-w-2xl', said.by === 'student' && 'ml-auto')}>
                <Panel
                  className={said.by === 'student' ? 'border-l-amber border-l-4 px-4 py-3' : 'px-4 py-3'}
                >
                  {said.by === 'staff' ? (
                    <>
                      <p className="text-muted mb-1 text-[13px]">
                        {said.name}, {dayAndTime(said.at, zone)} · {stateOf(said, zone)}
                      </p>
                      <p className="mb-1 font-semibold">{said.subject}</p>
                      <DocText doc={said.doc} />
                    </>
                  ) : (
                    <>
                      <p className="text-muted mb-1 text-[13px]">
                        <span className="text-ink font-semibold">{c.name}</span>, {dayAndTime(said.at, zone)}
                        {said.via === 'mail' ? ', by e-mail' : ''}
                        {said.automatic ? ' · sent by a machine' : ''}
                        <NewMark isNew={said.isNew} />
                      </p>
                      {said.unverified ? (
                        <p className="text-plum mb-1 text-[13px] font-semibold">
                          It says it’s from the student’s address, but nothing proves it. Check with the
                          student before you act on it.
                        </p>
                      ) : null}
                      {said.otherAddress ? (
                        <p className="text-plum mb-1 text-[13px] font-semibold">
                          From {said.otherAddress}, which is not the student’s address.
                        </p>
                      ) : null}
                      <p className="break-words whitespace-pre-wrap">{said.body}</p>
                      {said.isKept ? (
                        <a
                          href={`/api/replies/${said.id}`}
                          className="text-teal mt-1 inline-block text-[13px] font-semibold hover:underline"
                        >
                          Download the e-mail
                        </a>
                      ) : null}
                      {said.dropped > 0 ? (
                        <p className="text-muted mt-1 text-[13px]">
                          {said.dropped === 1 ? 'A file' : `${said.dropped} files`} came with it and{' '}
                          {said.dropped === 1 ? 'was' : 'were'} not kept.
                        </p>
                      ) : null}
                    </>
                  )}
                </Panel>
              </li>
            ))}
          </ol>
          {c.isLatest ? null : (
            <p className="mt-3">
              <Link href={`/c/${code}/conversations/${c.enrolmentId}`} className={buttonClasses('plain')}>
                Latest messages
              </Link>
            </p>
          )}
        </>
      )}
    </>
  );
}

function stateOf(said: Extract<Said, { by: 'staff' }>, zone: string): string {
  if (said.goesAt != null) return `goes ${dayAndTime(said.goesAt, zone)}`;
  const read = said.readAt == null ? 'not read yet' : `read ${dayAndTime(said.readAt, zone)}`;
  return `${read} · e-mail: ${MAIL_SAYS[said.mailState]}`;
}
