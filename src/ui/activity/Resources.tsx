'use client';
import type { ActivityView, ResourceRow } from '@/core/views/activity';
import { Button } from '../parts/Button';
import { DataTable, type DataColumn } from '../parts/DataTable';
import { ExportLinks } from '../parts/ExportLinks';
import { oneDigit } from '../parts/format';
import { usePick } from '../parts/usePick';
import { useQuery } from '../ribbon/useQuery';
import { startSort } from './People';

/** Who opened each activity and page, how often and how long, and who never did. */
export function Resources({
  view,
  rows,
}: {
  readonly view: ActivityView;
  readonly rows: readonly ResourceRow[];
}) {
  const { code } = view.course;
  const { query, note } = useQuery();
  const { pick } = usePick(code, view.tray);
  const n = view.people.length;
  const columns: DataColumn<ResourceRow>[] = [
    {
      key: 'title',
      label: 'Activity',
      value: (r) => r.title,
      show: (r) => (
        <a href={`/c/${code}/work/${r.id}`} className="font-semibold hover:underline">
          {r.title}
        </a>
      ),
    },
    { key: 'kind', label: 'Kind', value: (r) => r.kind },
    {
      key: 'openedBy',
      label: 'Opened by',
      right: true,
      means: 'Students who opened it in the window.',
      value: (r) => r.openedBy,
      show: (r) => `${r.openedBy} of ${n}`,
    },
    {
      key: 'views',
      label: 'Times',
      right: true,
      means: 'How often it was looked at in the window.',
      value: (r) => r.views,
    },
    {
      key: 'contributions',
      label: 'Done in it',
      right: true,
      means: 'Things done in it in the window: practised, attempted, handed in, posted.',
      value: (r) => r.contributions,
    },
    {
      key: 'minutes',
      label: 'Minutes',
      right: true,
      means: 'Time on it of all students together, in the window.',
      value: (r) => Math.round(r.minutes),
    },
    {
      key: 'each',
      label: 'Each',
      right: true,
      means: 'Minutes for each student who opened it.',
      value: (r) => (r.openedBy === 0 ? null : r.minutes / r.openedBy),
      show: (r) => (r.openedBy === 0 ? '' : oneDigit(r.minutes / r.openedBy)),
    },
    {
      key: 'never',
      label: 'Never opened',
      right: true,
      means: 'Students who had not opened it by the end of the window, in the window or before.',
      value: (r) => r.never.length,
      show: (r) =>
        r.never.length === 0 ? (
          'nobody'
        ) : (
          <Button
            small
            aria-label={`Pick ${r.never.length} who never opened ${r.title}`}
            onClick={() => pick(r.never, `never opened ${r.title}`)}
          >
            Pick {r.never.length}
          </Button>
        ),
    },
  ];
  return (
    <>
      <div className="mb-2 flex justify-end">
        <ExportLinks code={code} list="resources" extra={{ sort: query.get('sort') }} />
      </div>
      <DataTable
        label="Activities and pages"
        columns={columns}
        rows={rows}
        idOf={(r) => r.id}
        start={query.get('sort') ? startSort(query.get('sort')) : { by: 'openedBy', down: true }}
        onSort={(s) => note({ sort: `${s.by}${s.down ? '-' : ''}` })}
        empty="No activity of this kind."
      />
    </>
  );
}
