import Link from 'next/link';
import type { MessageRow } from '@/core/views/messages';
import { buttonClasses } from '../parts/Button';
import { counted, dayAndTime } from '../parts/format';
import { Nothing, Panel, ViewHead } from '../parts/Panel';
import { Cell, Table } from '../parts/Table';

/** The messages of a course with what became of them. */
export function MessageList({
  code,
  zone,
  messages,
}: {
  readonly code: string;
  readonly zone: string;
  readonly messages: readonly MessageRow[];
}) {
  const failed = messages.reduce((sum, m) => sum + m.failed, 0);
  const unread = messages.reduce((sum, m) => sum + m.recipients - m.read, 0);
  return (
    <>
      <ViewHead
        title={
          messages.length === 0
            ? 'Nothing has been sent yet'
            : failed > 0
              ? `${counted(failed, 'e-mail')} did not arrive`
              : `All e-mails of ${counted(messages.length, 'message')} are on their way or there`
        }
      >
        {messages.length > 0 ? `${counted(unread, 'copy', 'copies')} not read in the application yet` : null}
      </ViewHead>
      <Panel className="overflow-x-auto">
        {messages.length === 0 ? (
          <Nothing title="Write to somebody">
            <p>Pick students in Rounds and choose Message.</p>
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
            {messages.map((m) => (
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
                  {m.failed > 0 ? (
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
    </>
  );
}
