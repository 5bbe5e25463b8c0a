'use client';
import type { ActivityView, ResourceRow } from '@/core/views/activity';
import { Button } from '../parts/Button';
import { DataTable } from '../parts/DataTable';
import { ExportLinks } from '../parts/ExportLinks';
import { usePick } from '../parts/usePick';
import { useQuery } from '../ribbon/useQuery';
import { resourcesTable } from '@/core/tables/resources';

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
  return (
    <>
      <div className="mb-2 flex justify-end">
        <ExportLinks code={code} list="resources" extra={{ sort: query.get('sort') }} />
      </div>
      <DataTable
        label="Activities and pages"
        columns={resourcesTable.columns(view, {})}
        show={{
          title: (r) => (
            <a href={`/c/${code}/work/${r.id}`} className="font-semibold hover:underline">
              {r.title}
            </a>
          ),
          never: (r) =>
            r.never.length > 0 && (
              <Button
                small
                aria-label={`Pick ${r.never.length} who never opened ${r.title}`}
                onClick={() => pick(r.never, `never opened ${r.title}`)}
              >
                Pick {r.never.length}
              </Button>
            ),
        }}
        rows={rows}
        idOf={(r) => r.id}
        start={query.get('sort') ?? resourcesTable.usual}
        onSort={(sort) => note({ sort })}
        empty="No activity of this kind."
      />
    </>
  );
}
