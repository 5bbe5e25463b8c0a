import { ANY_YEAR, parseInstant } from '@/core/calendar/instant';
import type { TableSpec } from '@/core/formats/table';
import { mannKendall, olsSlope, theilSenSlope } from '@/core/statistics/trend';
import { WEEK_MS } from '@/core/units';
import { byCode, readRows } from './input';

interface ScoreRow {
  readonly student: string;
  readonly at: number;
  readonly percent: number;
}

const spec: TableSpec<ScoreRow> = {
  required: ['student', 'at', 'percent'],
  optional: [],
  read: (row) => {
    const student = row.required('student');
    row.required('at');
    row.required('percent');
    return {
      student,
      at: row.read('at', (text) => parseInstant(text, ANY_YEAR)) ?? 0,
      percent: row.number('percent', -1e15, 1e15) ?? 0,
    };
  },
};

/** `trend`: slopes a week and the test for a trend of each student's scores, one JSON object a line. */
export function trendCommand(file: string): string {
  const byStudent = new Map<string, ScoreRow[]>();
  for (const row of readRows(file, spec))
    byStudent.set(row.student, [...(byStudent.get(row.student) ?? []), row]);
  return [...byStudent]
    .sort(([a], [b]) => byCode(a, b))
    .map(([student, rows]) => {
      const origin = Math.min(...rows.map((r) => r.at));
      const points = rows
        .map((r) => ({ x: (r.at - origin) / WEEK_MS, y: r.percent }))
        .sort((a, b) => a.x - b.x || a.y - b.y);
      const test = mannKendall(points);
      return `${JSON.stringify({
        student,
        n: points.length,
        ols_per_week: olsSlope(points),
        theil_sen_per_week: theilSenSlope(points),
        mann_kendall: { s: test.s, var_s: test.varS, tau_b: test.tauB, p: test.p },
      })}\n`;
    })
    .join('');
}
