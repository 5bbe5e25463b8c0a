import Link from 'next/link';
import { listed, weekdayAndTime } from '@/core/format';
import type { CourseHead } from '@/core/views/courseHead';
import type { OccasionLine } from '@/core/views/rules';
import { Panel } from '../parts/Panel';
import { Cell, Table } from '../parts/Table';

const SAYS: Readonly<Record<OccasionLine['state'], string>> = {
  waiting: 'waits for a yes',
  'to go': 'goes soon',
  sent: 'sent',
  held: 'held back',
  declined: 'declined',
  word: 'a word to you',
  done: 'a word to you, done',
};

/** What the rules did, each with the numbers of that moment. */
export function RuleLog({
  course: { code, zone },
  lines,
  more,
}: {
  readonly course: CourseHead;
  readonly lines: readonly OccasionLine[];
  /** How many lines to ask for to see earlier ones; null if there are none. */
  readonly more: number | null;
}) {
  return (
    <Panel>
      <section aria-label="What the rules did">
        <h2 className="px-4 pt-3 font-serif text-lg font-semibold">What the rules did</h2>
        {lines.length === 0 ? (
          <p className="text-muted px-4 pb-4">Nothing yet. What they send and hold back stands here.</p>
        ) : (
          <Table
            head={[
              { label: 'When' },
              { label: 'Student' },
              { label: 'Rule' },
              { label: 'Because' },
              { label: 'Then' },
            ]}
          >
            {lines.map((line) => (
              <tr key={line.id}>
                <Cell className="whitespace-nowrap">{weekdayAndTime(line.at, zone)}</Cell>
                <Cell>
                  <Link href={`/c/${code}/students/${line.enrolmentId}`} className="text-teal">
                    {line.name}
                  </Link>
                </Cell>
                <Cell>{line.rule}</Cell>
                <Cell>
                  {line.assignment ? `${line.assignment.title}: ` : ''}
                  {listed(line.facts)}
                </Cell>
                <Cell>
                  {line.messageId == null ? (
                    <>
                      {SAYS[line.state]}
                      {line.why ? `: ${line.why}` : ''}
                    </>
                  ) : (
                    <Link href={`/c/${code}/messages/${line.messageId}`} className="text-teal">
                      {SAYS[line.state]}
                    </Link>
                  )}
                </Cell>
              </tr>
            ))}
          </Table>
        )}
        {more == null ? null : (
          <p className="px-4 py-3">
            <Link href={`/c/${code}/rules?log=${more}`} scroll={false} className="text-teal">
              Show earlier ones
            </Link>
          </p>
        )}
      </section>
    </Panel>
  );
}
