import { describe, expect, it } from 'vitest';
import { changesOf, total } from './counting';
import { readCounts, readOutcomes } from './readAnswer';

const counts = {
  file: 'events.csv',
  kind: 'events',
  added: 3,
  changed: 1,
  unchanged: 7,
  rejected: 2,
  waiting: 4,
};

describe('what the server says of an import', () => {
  it('is read as counts, added up over the files', () => {
    const read = readCounts([counts, { ...counts, kind: 'statements', added: 5 }]);
    expect([total(read, 'added'), total(read, 'rejected'), changesOf(read)]).toEqual([8, 4, 10]);
    expect(readCounts([])).toEqual([]);
  });
  it.each([[null], [{}], [[{ file: 'x' }]], [[{ ...counts, added: 'many' }]], ['gone']])(
    'is not taken for one where it is %j',
    (answer) => expect(() => readCounts(answer)).toThrow(),
  );
  it('of several courses says what became of each', () => {
    const outcomes = readOutcomes([
      { code: 'NAV', title: 'Navigation', made: false, files: [counts], left: null },
      { code: 'OTH', title: 'Other', made: false, files: [], left: 'is taught by others' },
    ]);
    expect(outcomes.map((o) => [o.code, changesOf(o.files), o.left])).toEqual([
      ['NAV', 4, null],
      ['OTH', 0, 'is taught by others'],
    ]);
    expect(() => readOutcomes([{ code: 'NAV' }])).toThrow();
  });
});
