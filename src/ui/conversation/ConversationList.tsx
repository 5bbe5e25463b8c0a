import Link from 'next/link';
import { counted, dayAndTime } from '@/core/format';
import type { ConversationLine } from '@/core/views/conversation';
import { buttonClasses } from '../parts/Button';
import { Nothing, Panel, ViewHead } from '../parts/Panel';
import { Cell, Table } from '../parts/Table';

interface Props {
  readonly code: string;
  readonly zone: string;
  readonly lines: readonly ConversationLine[];
}

/** The students who answered, those whom nobody has read first. */
export function ConversationList({ code, zone, lines }: Props) {
  const unread = lines.filter((l) => l.unread > 0).length;
  return (
    <>
      <ViewHead
        title={
          lines.length === 0
            ? 'Nobody has answered yet'
            : unread > 0
              ? `${counted(unread, 'student')} ${unread === 1 ? 'waits' : 'wait'} for you to read their answer`
              : `All answers of ${counted(lines.length, 'student')} are read`
        }
        aside={
          <Link href={`/c/${code}/messages`} className={buttonClasses('quiet')}>
            What was sent
          </Link>
        }
      />
      <Panel>
        {lines.length === 0 ? (
          <Nothing title="Answers come in here">
            <p>Students answer in the application, or by e-mail where the installation takes mail in.</p>
          </Nothing>
        ) : (
          <Table
            head={[{ label: 'Student' }, { label: 'Last said' }, { label: 'When' }, { label: 'Not read' }]}
          >
            {lines.map((line) => (
              <tr key={line.enrolmentId}>
                <Cell className="whitespace-nowrap">
                  <Link
                    href={`/c/${code}/conversations/${line.enrolmentId}`}
                    className={line.unread > 0 ? 'font-semibold hover:underline' : 'hover:underline'}
                  >
                    {line.name}
                  </Link>{' '}
                  <span className="text-muted text-[13px]">{line.section}</span>
                </Cell>
                <Cell className="max-w-96 break-words">
                  {line.lastBy === 'staff' ? <span className="text-muted">you wrote: </span> : null}
                  {line.last}
                </Cell>
                <Cell className="whitespace-nowrap">{dayAndTime(line.at, zone)}</Cell>
                <Cell className={line.unread > 0 ? 'text-teal font-semibold' : 'text-muted'}>
                  {line.unread > 0 ? `${line.unread} new` : 'none'}
                </Cell>
              </tr>
            ))}
          </Table>
        )}
      </Panel>
    </>
  );
}
