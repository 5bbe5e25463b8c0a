import Link from 'next/link';
import type { MessagePage } from '@/core/views/messages';
import { buttonClasses } from '../parts/Button';
import { counted, dayAndTime, weekdayAndTime } from '@/core/format';
import { ContactFiles } from '../brief/Contacts';
import { Nothing, Panel, ViewHead } from '../parts/Panel';
import { Cell, Table } from '../parts/Table';

/** The messages of a course with what became of them. */
export function MessageList({
  code,
  zone,
  page: { rows, all, answers, isOlder, before },
}: {
  readonly code: string;
  readonly zone: string;
  readonly page: MessagePage;
}) {
  return (
    <>
      <ViewHead
        title={
          all.messages === 0
            ? 'Nothing has been sent yet'
            : all.failed > 0
              ? `${counted(all.failed, 'e-mail')} did not arrive`
              : `All e-mails of ${counted(all.messages, 'message')} are on their way or there`
        }
        aside={
          <span className="flex flex-wrap items-center gap-2">
            <ContactFiles code={code} />
            <Link
              href={`/c/${code}/messages?show=answers`}
              className={buttonClasses(answers > 0 ? 'main' : 'plain')}
            >
              {answers > 0 ? counted(answers, 'answer to read', 'answers to read') : 'Answers'}
            </Link>
          </span>
        }
      >
        {all.messages > 0 ? `${counted(all.unread, 'copy', 'copies')} not read in the application yet` : null}
      </ViewHead>
      <Panel>
        {all.messages === 0 ? (
          <Nothing title="Write to somebody">
            <p>Select students in Rounds and choose Message.</p>
            <Link href={`/c/${code}/rounds`} className={buttonClasses('main')}>
              Go to Rounds
            </Link>
          </Nothing>
        ) : (
          <Table
            head={[
              { label: 'Subject' },
              { label: 'Because' },
              { label: 'Sent' },
              { label: 'By' },
              { label: 'Read', right: true },
              { label: 'E-mail', right: true },
            ]}
          >
            {rows.map((m) => (
              <tr key={m.id}>
                <Cell className="max-w-80">
                  <Link
                    href={`/c/${code}/messages/${m.id}`}
                    className="font-semibold break-words hover:underline"
                  >
                    {m.subject}
                  </Link>
                </Cell>
                <Cell className="text-muted max-w-56 break-words">{m.reason}</Cell>
                <Cell className="whitespace-nowrap">{dayAndTime(m.at, zone)}</Cell>
                <Cell>{m.by}</Cell>
                <Cell className="text-right whitespace-nowrap">
                  {m.read} of {m.recipients}
                </Cell>
                <Cell className="text-right whitespace-nowrap">
                  {m.goesAt != null ? (
                    `goes ${weekdayAndTime(m.goesAt, zone)}`
                  ) : m.failed > 0 ? (
                    <span className="text-plum font-semibold">{m.failed} did not arrive</span>
                  ) : m.waiting > 0 ? (
                    `${m.waiting} on the way`
                  ) : (
                    'all sent'
                  )}
                </Cell>
              </tr>
            ))}
          </Table>
        )}
      </Panel>
      {before != null || isOlder ? (
        <nav aria-label="More messages" className="mt-4 flex gap-3">
          {isOlder ? (
            <Link href={`/c/${code}/messages`} className={buttonClasses('plain')}>
              Newest messages
            </Link>
          ) : null}
          {before != null ? (
            <Link href={`/c/${code}/messages?before=${before}`} className={buttonClasses('plain')}>
              Older messages
            </Link>
          ) : null}
        </nav>
      ) : null}
    </>
  );
}
