'use client';
import type { ActivityView, ResourceRow } from '@/core/views/activity';
import { Button } from '../parts/Button';
import { DataTable } from '../parts/DataTable';
import { ExportLinks } from '../parts/ExportLinks';
import { usePick } from '../parts/usePick';
import { address, useAddress } from '../parts/useAddress';
import { resourcesTable } from '@/core/tables/resources';

const ADDRESS = address({ sort: resourcesTable.usual });

/** Who opened each activity and page, how often and how long, and who never did. */
export function Resources({
  view,
  rows,
}: {
  readonly view: ActivityView;
  readonly rows: readonly ResourceRow[];
}) {
  const { code } = view.course;
  const { asked, note } = useAddress(ADDRESS);
  const { pick } = usePick(view);
  return (
    <>
      <div className="mb-2 flex justify-end">
        <ExportLinks code={code} list="resources" extra={{ sort: asked.sort }} />
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
                aria-label={`Select ${r.never.length} who never opened ${r.title}`}
                onClick={() => pick(r.never, `never opened ${r.title}`)}
              >
                Select {r.never.length}
              </Button>
            ),
        }}
        rows={rows}
        idOf={(r) => r.id}
        start={asked.sort}
        onSort={(sort) => note({ sort })}
        empty="No activity of this kind."
      />
    </>
  );
}
