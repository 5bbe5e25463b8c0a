'use client';
import { useState } from 'react';
import { saveActivityColumnsAction } from '@/actions/views';
import { isActivityShow, type ActivityShow } from '@/core/views/activity';
import { ACTIVITY_COLUMNS, type ActivityColumn, type ActivityView } from '@/core/views/activity';
import { Button } from '../parts/Button';
import { Chips } from '../parts/Chips';
import { DataTable } from '../parts/DataTable';
import { ExportLinks } from '../parts/ExportLinks';
import { spanText } from '@/core/format';
import { Sheet } from '../parts/Sheet';
import { StudentLink } from '../parts/StudentLink';
import { useAct } from '../parts/useAct';
import { usePick } from '../parts/usePick';
import { address, useAddress } from '../parts/useAddress';
import { measureOf } from '@/core/measures/registry';
import { weekFigureOf, activityTable } from '@/core/tables/activity';
import { studentColumn } from '@/core/tables/people';

const ADDRESS = address({ show: 'all', by: 'window', sort: activityTable.usual });

export function People({ view }: { readonly view: ActivityView }) {
  const { code } = view.course;
  const { asked, note } = useAddress(ADDRESS);
  const { picked, pick, toggle } = usePick(view);
  const [columnsOpen, setColumnsOpen] = useState(false);
  const show = isActivityShow(asked.show) ? asked.show : 'all';
  const measure = weekFigureOf(asked);
  const reasons: Record<ActivityShow, string> = {
    all: 'selected from the activity',
    away: `no login ${spanText(view.scope.window)}`,
    quiet: 'silent for more than twice the usual gap',
    opened: 'opened an assignment and did nothing in it',
  };
  const columns = activityTable.columns(view, asked);
  const rows = activityTable.rows(view, asked);
  const count = (of: ActivityShow) => view.people.filter((p) => p.shows.includes(of)).length;
  return (
    <>
      <div className="no-print mb-2 flex flex-wrap items-center gap-2">
        <Chips
          label="Show"
          value={show}
          options={[
            { value: 'all', label: 'Everyone', count: view.people.length },
            { value: 'away', label: 'Not logged in', count: count('away') },
            {
              value: 'quiet',
              label: 'Quieter than usual',
              count: count('quiet'),
            },
            { value: 'opened', label: 'Opened only', count: count('opened') },
          ]}
          onChange={(v) => note({ show: v })}
        />
        {show !== 'all' && rows.length > 0 ? (
          <Button
            small
            onClick={() =>
              pick(
                rows.map((r) => r.enrolmentId),
                reasons[show],
              )
            }
          >
            Select these {rows.length}
          </Button>
        ) : null}
        <span className="ml-auto flex items-center gap-2">
          <Chips
            label="Columns are"
            value={measure ?? 'window'}
            options={[
              { value: 'window', label: 'The window' },
              { value: 'minutes', label: 'Minutes a week' },
              { value: 'days', label: 'Days a week' },
              { value: 'inClass', label: 'In class a week' },
            ]}
            onChange={(v) => note({ by: v })}
          />
          <Button look="quiet" small onClick={() => setColumnsOpen(true)}>
            Columns …
          </Button>
          <ExportLinks
            code={code}
            list="activity"
            extra={{ show: show === 'all' ? null : show, by: measure, sort: asked.sort }}
          />
        </span>
      </div>
      <DataTable
        key={measure ?? 'window'}
        label="Activity of each student"
        columns={columns}
        rows={rows}
        idOf={(r) => r.enrolmentId}
        show={{
          name: (r) => (
            <StudentLink code={code} id={r.enrolmentId} from="activity">
              {studentColumn.words!(r)}
            </StudentLink>
          ),
          last: (r) =>
            r.last == null && (
              <span className="text-plum">{r.lastSeen == null ? 'never seen' : 'not in these days'}</span>
            ),
          silence: (r) =>
            r.shows.includes('quiet') && <span className="text-plum font-semibold">{r.silence}</span>,
        }}
        start={asked.sort}
        onSort={(sort) => note({ sort })}
        picked={picked}
        pickId={(r) => r.enrolmentId}
        nameOf={(r) => `${r.given} ${r.family}`}
        onPick={(r) => toggle(r.enrolmentId, reasons[show])}
        empty={
          show === 'all'
            ? 'Nobody is in this group. Choose another above.'
            : 'Nobody: choose “Everyone” to see all.'
        }
      />
      {columnsOpen ? (
        <ColumnsSheet code={code} columns={view.columns} onClose={() => setColumnsOpen(false)} />
      ) : null}
    </>
  );
}

/** Which columns, and in which order: kept for the next time. */
function ColumnsSheet({
  code,
  columns,
  onClose,
}: {
  readonly code: string;
  readonly columns: readonly ActivityColumn[];
  readonly onClose: () => void;
}) {
  const { busy, act } = useAct();
  const [order, setOrder] = useState<readonly ActivityColumn[]>([
    ...columns,
    ...ACTIVITY_COLUMNS.filter((c) => !columns.includes(c)),
  ]);
  const [on, setOn] = useState<ReadonlySet<ActivityColumn>>(new Set(columns));
  const move = (i: number, by: number) => {
    const next = [...order];
    const [moved] = next.splice(i, 1);
    next.splice(i + by, 0, moved!);
    setOrder(next);
  };
  return (
    <Sheet open onOpenChange={onClose} title="Columns" description="Choose them and put them in order.">
      <ol className="mb-4 space-y-1">
        {order.map((c, i) => (
          <li key={c} className="flex items-center gap-2">
            <label className="flex flex-1 items-center gap-2">
              <input
                type="checkbox"
                className="accent-teal size-4"
                checked={on.has(c)}
                onChange={(e) =>
                  setOn(new Set(e.target.checked ? [...on, c] : [...on].filter((x) => x !== c)))
                }
              />
              {measureOf(c).name}
            </label>
            <Button
              look="quiet"
              small
              disabled={i === 0}
              aria-label={`Move ${measureOf(c).name} up`}
              onClick={() => move(i, -1)}
            >
              ↑
            </Button>
            <Button
              look="quiet"
              small
              disabled={i === order.length - 1}
              aria-label={`Move ${measureOf(c).name} down`}
              onClick={() => move(i, 1)}
            >
              ↓
            </Button>
          </li>
        ))}
      </ol>
      <Button
        look="main"
        disabled={busy || on.size === 0}
        onClick={() =>
          act(() => saveActivityColumnsAction({ code, columns: order.filter((c) => on.has(c)) }), {
            done: 'The columns are kept.',
            then: onClose,
          })
        }
      >
        Keep these columns
      </Button>
    </Sheet>
  );
}
