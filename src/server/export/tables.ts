import { activityTable } from '@/core/tables/activity';
import { gradebookTable } from '@/core/tables/gradebook';
import { peopleTable, workListTable } from '@/core/tables/lists';
import { itemGridTable } from '@/core/tables/itemGrid';
import { itemsTable } from '@/core/tables/items';
import { outcomesTable } from '@/core/tables/outcomes';
import { resourcesTable } from '@/core/tables/resources';
import type { SheetTable } from '@/core/tables/sheet';
import { sheetOf, type AskedTable } from '@/core/tables/table';
import { trendsTable } from '@/core/tables/trends';
import { weekTable } from '@/core/tables/week';
import { workTable } from '@/core/tables/work';
import { isPeopleList, LISTS } from '@/core/views/lists';
import type { Viewer } from '../access/viewer';
import { invalid, notFound } from '../base/errors';
import { activityView } from '../look/activity';
import { gradebookView } from '../look/gradebook';
import { listsView } from '../look/lists';
import { itemsView } from '../look/items';
import { outcomesView } from '../look/outcomes';
import { trendsView } from '../look/trends';
import { weekView } from '../look/week';
import { workView } from '../look/work';

/** The assignment that an address names, if it names one. */
const workIn = ({ work }: AskedTable): number | undefined =>
  /^\d{1,9}$/.test(work ?? '') ? Number(work) : undefined;

/** The table of a view as it stands on screen: same columns, same students, same filter, same order. */
export async function exportTable(
  viewer: Viewer,
  code: string,
  name: string,
  asked: AskedTable,
): Promise<SheetTable> {
  switch (name) {
    case 'gradebook':
      return sheetOf(gradebookTable, await gradebookView(viewer, code, asked), asked);
    case 'activity':
      return sheetOf(activityTable, await activityView(viewer, code, { ...asked, tab: 'people' }), asked);
    case 'resources':
      return sheetOf(resourcesTable, await activityView(viewer, code, { ...asked, tab: 'resources' }), asked);
    case 'trends':
      return sheetOf(trendsTable, await trendsView(viewer, code, { ...asked, student: undefined }), asked);
    case 'work': {
      const work = workIn(asked);
      if (work === undefined) throw invalid('Say which assignment.');
      return sheetOf(workTable, await workView(viewer, code, work, asked), asked);
    }
    case 'items':
      return sheetOf(itemsTable, await itemsView(viewer, code, { ...asked, work: workIn(asked) }), asked);
    case 'answers':
      return sheetOf(
        itemGridTable,
        await itemsView(viewer, code, { ...asked, work: workIn(asked), tab: 'students' }),
        asked,
      );
    case 'outcomes':
      return sheetOf(outcomesTable, await outcomesView(viewer, code, asked, { coverage: true }), asked);
    case 'week':
      return sheetOf(weekTable, await weekView(viewer, code, asked), asked);
  }
  const list = LISTS.find((l) => l === name);
  if (!list) throw notFound('list');
  const view = await listsView(viewer, code, { ...asked, list });
  return isPeopleList(list) ? sheetOf(peopleTable, view, asked) : sheetOf(workListTable, view, asked);
}
