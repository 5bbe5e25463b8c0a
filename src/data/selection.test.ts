import { runs } from '../../tests/support/runs';
import { PGlite } from '@electric-sql/pglite';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Verdict } from '@/core/rules/kleene';
import { select, type SelectColumn, type Selection } from '@/core/rules/selection';

/**
 * The same conditions in SQL, whose logic has three values too (ISO/IEC 9075-2, boolean value expression), and whose
 * numeric type is exact.
 */
let client: PGlite;
beforeAll(async () => {
  client = await PGlite.create();
  await client.exec('create table t (row int primary key, a numeric, b numeric, c text)');
});
afterAll(() => client.close());

const text = (value: string | number) => `'${String(value).replaceAll("'", "''")}'`;

function sqlOf(selection: Selection): string {
  if ('all' in selection) return `(${['true', ...selection.all.map(sqlOf)].join(' and ')})`;
  if ('any' in selection) return `(${['false', ...selection.any.map(sqlOf)].join(' or ')})`;
  if ('not' in selection) return `(not ${sqlOf(selection.not)})`;
  const { measure: m } = selection;
  switch (selection.is) {
    case '=':
      return m === 'c' ? `(${m} = ${text(selection.value)})` : `(${m} = ${selection.value}::numeric)`;
    case 'in':
      // An empty list is nothing that SQL can write; of what is known, it holds nothing.
      return selection.value.length === 0
        ? `(case when ${m} is null then null else false end)`
        : `(${m} in (${selection.value.map((v) => (m === 'c' ? text(v) : `${v}::numeric`)).join(', ')}))`;
    case 'between':
      return `(${m} between ${selection.value}::numeric and ${selection.to}::numeric)`;
    case 'known':
      return `(${m} is not null)`;
    case 'lowest':
    case 'highest': {
      const lower = `(select count(*) from t o where o.${m} ${selection.is === 'lowest' ? '<' : '>'} t.${m})`;
      const share = (percent: string) => `ceil((select count(${m}) from t) * (${percent}) / 100)`;
      const { percent, after = 0 } = selection;
      return `(case when ${m} is null then null else ${lower} < ${share(`${percent}::numeric + ${after}::numeric`)} and ${lower} >= ${share(`${after}::numeric`)} end)`;
    }
    default:
      return `(${m} ${selection.is} ${selection.value}::numeric)`;
  }
}

const cell = fc.option(fc.integer({ min: -4, max: 4 }).map((n) => n / 2));
const row = fc.record({ a: cell, b: cell, c: fc.option(fc.constantFrom('x', 'y', '1', '01')) });
const half = fc.integer({ min: -5, max: 5 }).map((n) => n / 2);
const percent = fc.integer({ min: 0, max: 1000 }).map((n) => n / 10);
const figure = fc.constantFrom('a', 'b');
const test: fc.Arbitrary<Selection> = fc.oneof(
  fc.record({ measure: figure, is: fc.constantFrom('<', '<=', '>', '>='), value: half }),
  fc.record({ measure: figure, is: fc.constant('between'), value: half, to: half }),
  fc.record({ measure: figure, is: fc.constant('='), value: half }),
  fc.record({ measure: figure, is: fc.constant('in'), value: fc.array(half, { maxLength: 3 }) }),
  fc.record({ measure: fc.constant('c'), is: fc.constant('='), value: fc.constantFrom('x', '1', '01', 'z') }),
  fc.record({
    measure: fc.constant('c'),
    is: fc.constant('in'),
    value: fc.array(fc.constantFrom('x', 'y', '01'), { maxLength: 3 }),
  }),
  fc.record({ measure: fc.constantFrom('a', 'b', 'c'), is: fc.constant('known') }),
  fc.record({ measure: figure, is: fc.constantFrom('lowest', 'highest'), percent, after: percent }),
) as fc.Arbitrary<Selection>;
const { selection } = fc.letrec<{ selection: Selection }>((tie) => ({
  selection: fc.oneof(
    { depthSize: 'small', withCrossShrink: true },
    test,
    fc.array(tie('selection'), { maxLength: 4 }).map((all): Selection => ({ all })),
    fc.array(tie('selection'), { maxLength: 4 }).map((any): Selection => ({ any })),
    tie('selection').map((not): Selection => ({ not })),
  ),
}));

const columnOf = (cells: readonly (number | string | null)[]): SelectColumn => ({
  texts: cells.map((c) => (c == null ? null : String(c))),
  numbers: cells.map((c) => (c == null || Number.isNaN(Number(c)) ? null : Number(c))),
});

describe('a condition on the columns of a table', () => {
  it('selects whom SQL selects, and knows as little', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(row, { maxLength: 20 }),
        fc.array(selection, { minLength: 1, maxLength: 8 }),
        async (rows, asked) => {
          const values = rows.map(
            ({ a, b, c }, i) => `(${i}, ${a ?? 'null'}, ${b ?? 'null'}, ${c == null ? 'null' : text(c)})`,
          );
          await client.exec(
            `delete from t;${rows.length > 0 ? `insert into t values ${values.join(',')}` : ''}`,
          );
          const columns: Record<string, SelectColumn> = {
            a: columnOf(rows.map((r) => r.a)),
            b: columnOf(rows.map((r) => r.b)),
            c: columnOf(rows.map((r) => r.c)),
          };
          for (const one of asked) {
            const answer = await client.query<{ is: Verdict }>(
              `select ${sqlOf(one)} as is from t order by row`,
            );
            expect(select(one, (name) => columns[name]!, rows.length)).toEqual(answer.rows.map((r) => r.is));
          }
        },
      ),
      { numRuns: runs(60) },
    );
  });
});
