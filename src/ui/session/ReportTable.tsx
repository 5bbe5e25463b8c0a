import type { Report } from '@/core/views/session';
import { oneDigit, weekdayDay } from '@/core/format';
import { Nothing } from '../parts/Panel';
import { Cell, Table } from '../parts/Table';

/** What one student did, day by day and activity by activity. */
export function ReportTable({ report }: { readonly report: Report }) {
  return report.lines.length === 0 ? (
    <Nothing title="Nothing is recorded in these days" />
  ) : (
    <Table
      head={[
        { label: 'Day' },
        { label: 'Activity' },
        { label: 'Minutes', right: true },
        { label: 'In class', right: true },
        { label: 'Looked at', right: true },
        { label: 'Parts done', right: true },
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
      {report.elsewhere >= 0.05 ? (
        <tr>
          <Cell className="py-1">{''}</Cell>
          <Cell className="text-muted py-1">In the course, but in no activity</Cell>
          <Cell className="py-1 text-right">{oneDigit(report.elsewhere)}</Cell>
          <Cell className="py-1">{''}</Cell>
          <Cell className="py-1">{''}</Cell>
          <Cell className="py-1">{''}</Cell>
        </tr>
      ) : null}
    </Table>
  );
}
