import { expect, test } from 'vitest';
import { find } from './find';

const groups = [
  { heading: 'Commands', entries: [{ name: 'Go to Trends' }, { name: 'Grade what waits' }] },
  {
    heading: 'Students',
    entries: [{ name: 'Łucja Wójcik' }, { name: 'Tobias Grade' }, { name: 'Trend Ostrow' }],
  },
];
const shown = (typed: string) =>
  find(groups, typed).map((g) => [g.heading, ...g.entries.map((e) => e.name)].join(': '));

test('a name is found without its accents, and groups in which nothing fits are gone', () => {
  expect(shown('wojcik')).toEqual(['Students: Łucja Wójcik']);
  expect(shown('nobody')).toEqual([]);
});

test('the best fit comes first, within its group and between groups', () => {
  expect(shown('grade')).toEqual(['Commands: Grade what waits', 'Students: Tobias Grade']);
  expect(shown('trend')).toEqual(['Students: Trend Ostrow', 'Commands: Go to Trends']);
});

test('with nothing typed all stand in the order given', () => {
  expect(find(groups, '')).toEqual(groups);
});
