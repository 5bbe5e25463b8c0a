import type { ItemGridRow, ItemsView } from '../views/items';
import { sectionColumn, studentColumn } from './people';
import { called, percent, type Column, type Table } from './table';

/** Items in the order that is asked for: as they were asked, or the hardest first. */
export function itemsInOrder(
  { look, unscored, dropped }: ItemsView,
  order: string | null | undefined,
): string[] {
  const scored = [...look.items];
  if (order === 'hardest') scored.sort((a, b) => (a.difficulty ?? 0) - (b.difficulty ?? 0));
  return [...scored.map((i) => i.item), ...unscored, ...dropped];
}

/** The answers of each student to each item: the first score, and blank where it was not reached. */
export const itemGridTable: Table<ItemsView, ItemGridRow> = {
  name: ({ quiz }) => `answers-${quiz?.id ?? 'none'}`,
  usual: 'right',
  columns: (view, asked) => [
    {
      ...studentColumn,
      file: [...studentColumn.file!, { head: sectionColumn.label, cell: (r: ItemGridRow) => r.section }],
    },
    {
      key: 'right',
      label: 'Right',
      means: 'Share of the items of the quiz whose first answer was right.',
      right: true,
      value: (r) => percent(r.right),
      words: (r) => `${Math.round(100 * r.right)} %`,
      file: called('Right %', (r) => percent(r.right)),
    },
    ...itemsInOrder(view, asked.order).map((item): Column<ItemGridRow> => ({
      key: `i:${item}`,
      label: item,
      value: (r) => r.cells[item]?.first ?? null,
      words: (r) => r.cells[item]?.answer ?? '',
      file: [
        { head: item, cell: (r) => r.cells[item]?.first ?? null },
        { head: `${item}, answer`, cell: (r) => r.cells[item]?.answer ?? null },
      ],
    })),
  ],
  rows: ({ grid }) => grid,
  filter: ({ quiz }) => quiz?.title ?? 'none',
};
