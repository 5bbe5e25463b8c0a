'use client';
import type { Report, SessionView } from '@/core/views/session';
import { Button } from '../parts/Button';
import { counted, minutesText, spanText } from '@/core/format';
import { Panel, ViewHead } from '../parts/Panel';
import { ScopeBar } from '../ribbon/ScopeBar';
import { address, useAddress } from '../parts/useAddress';
import { ReportTable } from './ReportTable';

const ADDRESS = address({ student: null });

/** What one student did in the days of the window; printable. */
export function StudentReport({ report, view }: { readonly report: Report; readonly view: SessionView }) {
  const { ask } = useAddress(ADDRESS);
  return (
    <>
      <ViewHead
        title={`${report.name}: ${minutesText(report.minutes)} on ${counted(report.days, 'day')}`}
        aside={
          <span className="no-print flex flex-wrap gap-2">
            <Button look="quiet" onClick={() => ask({ student: null })}>
              Back to the check
            </Button>
            <Button onClick={() => window.print()}>Print</Button>
          </span>
        }
      >
        {spanText(view.scope.window)}; {minutesText(report.inClass)} of it in class. Choose other days on the
        ribbon.
      </ViewHead>
      <div className="no-print">
        <ScopeBar ribbon={view.ribbon} scope={view.scope} course={view.course} kinds={false} />
      </div>
      <Panel>
        <ReportTable report={report} />
      </Panel>
    </>
  );
}
