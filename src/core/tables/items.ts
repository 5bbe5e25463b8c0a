import { counted } from '../format';
import type { ItemLook } from '../items/look';
import type { ItemsView } from '../views/items';
import { called, percent, type Column, type Table } from './table';

const two = (value: number | null): string => (value == null ? 'none' : value.toFixed(2));

const COLUMNS: readonly Column<ItemLook>[] = [
  { key: 'item', label: 'Item', value: (r) => r.item },
  {
    key: 'difficulty',
    label: 'Right',
    means:
      'Difficulty: the mean score of first answers, as a share of the full score. Whoever sat the quiz and left the item out scores 0 in it.',
    right: true,
    value: (r) => percent(r.difficulty),
    words: (r) => (r.difficulty == null ? 'none' : `${Math.round(100 * r.difficulty)} %`),
    file: called('Right %', (r) => percent(r.difficulty)),
  },
  {
    key: 'd27',
    label: 'D',
    means:
      'Discrimination: the mean score of the upper 27 % by total less that of the lower 27 % (Kelley 1939). From 0.40 very good, under 0.20 poor (Ebel & Frisbie 1991).',
    right: true,
    value: (r) => r.d27,
    words: (r) => two(r.d27),
  },
  {
    key: 'rest',
    label: 'With the rest',
    means: 'Correlation of the item with the total of the other items.',
    right: true,
    value: (r) => r.itemRest,
    words: (r) => two(r.itemRest),
  },
  { key: 'omitted', label: 'Left out', right: true, value: (r) => r.omitted },
  {
    key: 'wrong',
    label: 'Commonest wrong answer',
    wraps: true,
    value: (r) => r.answers.find((a) => !a.right)?.answer ?? null,
    words: (r) => {
      const wrong = r.answers.find((a) => !a.right);
      return wrong ? `${wrong.answer} (${counted(wrong.students.length, 'student')})` : 'none';
    },
  },
  {
    key: 'call',
    label: 'Calls for a look',
    value: (r) => (r.call == null ? null : 1),
    words: (r) => (r.call == null ? '' : 'yes'),
    file: called('Look at', (r) => r.call),
  },
];

/** The items of a quiz with their figures. */
export const itemsTable: Table<ItemsView, ItemLook> = {
  name: ({ quiz }) => `items-${quiz?.id ?? 'none'}`,
  usual: 'difficulty',
  columns: () => COLUMNS,
  rows: ({ look }) => look.items,
  filter: ({ quiz }) => quiz?.title ?? 'none',
};
