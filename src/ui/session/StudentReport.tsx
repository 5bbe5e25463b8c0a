'use client';
import { REPORT_SPANS, type Report, type SessionView } from '@/core/views/session';
import { Button } from '../parts/Button';
import { Chips } from '../parts/Chips';
import { minutesText, oneDigit, spanText, weekdayDay } from '@/core/format';
import { Nothing, Panel, ViewHead } from '../parts/Panel';
import { Cell, Table } from '../parts/Table';
import { ScopeBar } from '../ribbon/ScopeBar';
import { useQuery } from '../ribbon/useQuery';

/** What one student worked on in a day, a week or a month; printable. */
export function StudentReport({ report, view }: { readonly report: Report; readonly view: SessionView }) {
  const { change } = useQuery();
  const total = report.lines.reduce((sum, l) => sum + l.minutes, 0);
  const inClass = report.lines.reduce((sum, l) => sum + l.inClass, 0);
  const days = new Set(report.lines.map((l) => l.day)).size;
  return (
    <>
      <ViewHead
        title={`${report.name}: ${minutesText(total)} on ${days} days`}
        aside={
          <span className="no-print flex gap-2">
            <Button look="quiet" onClick={() => change({ student: null, span: null })}>
              Back to the check
            </Button>
            <Button onClick={() => window.print()}>Print</Button>
          </span>
        }
      >
        The {report.span} {spanText(report)}; {minutesText(inClass)} of it in class. Choose the window to look
        at another {report.span}.
      </ViewHead>
      <div className="no-print">
        <ScopeBar ribbon={view.ribbon} scope={view.scope} course={view.course} kinds={false} />
        <div className="mb-3">
          <Chips
            label="Span"
            value={report.span}
            options={REPORT_SPANS.map((value) => ({
              value,
              label: value[0]!.toUpperCase() + value.slice(1),
            }))}
            onChange={(span) => change({ span })}
          />
        </div>
      </div>
      <Panel>
        {report.lines.length === 0 ? (
          <Nothing title="Nothing is recorded in these days" />
        ) : (
          <Table
            head={[
              { label: 'Day' },
              { label: 'Work or page' },
              { label: 'Minutes', right: true },
              { label: 'In class', right: true },
              { label: 'Looked at', right: true },
              { label: 'Done', right: true },
            ]}
          >
            {report.lines.map((l, i) => (
              <tr key={`${l.day}-${l.activityId}`}>
                <Cell className="py-1">{report.lines[i - 1]?.day === l.day ? '' : weekdayDay(l.day)}</Cell>
                <Cell className="py-1">{l.title}</Cell>
                <Cell className="py-1 text-right">{oneDigit(l.minutes)}</Cell>
                <Cell className="py-1 text-right">{oneDigit(l.inClass)}</Cell>
                <Cell className="py-1 text-right">{l.views}</Cell>
                <Cell className="py-1 text-right">{l.contributions}</Cell>
              </tr>
            ))}
          </Table>
        )}
      </Panel>
    </>
  );
}
