import { ANY_YEAR, parseInstant } from '@/core/calendar/instant';
import type { TableSpec } from '@/core/formats/table';
import { groupBy } from '@/core/groupBy';
import { classPrior, evidenceShare, mastery, type BetaPrior, type Evidence } from '@/core/outcomes/mastery';
import type { Instant } from '@/core/units';
import { csvOf } from './csv';
import { byCode, readRows } from './input';

interface EvidenceRow extends Evidence {
  readonly student: string;
  readonly outcome: string;
}

const spec: TableSpec<EvidenceRow> = {
  required: ['student', 'outcome', 'at', 'share', 'weight'],
  optional: [],
  read: (row) => {
    for (const name of ['at', 'share', 'weight']) row.required(name);
    return {
      student: row.required('student'),
      outcome: row.required('outcome'),
      at: row.read('at', (text) => parseInstant(text, ANY_YEAR)) ?? 0,
      share: row.number('share', 0, 1) ?? 0,
      weight: row.number('weight', 0, 1e9) ?? 0,
    };
  },
};

export interface MasteryOptions {
  readonly asOf: Instant;
  readonly halfLifeDays: number;
  /** The same for every outcome; that of the class, each on its own, if it is left out. */
  readonly prior: BetaPrior | null;
}

/** `mastery`: how far each student has each outcome by the evidence in a file, as CSV by student and outcome. */
export function masteryCommand(file: string, { asOf, halfLifeDays, prior }: MasteryOptions): string {
  const rows = readRows(file, spec);
  const byOutcome = groupBy(rows, (r) => r.outcome);
  const found = [...byOutcome].flatMap(([outcome, ofOutcome]) => {
    const byStudent = groupBy(ofOutcome, (r) => r.student);
    const known = [...byStudent.values()].flatMap((list) => evidenceShare(list.filter((e) => e.at <= asOf)));
    const own = prior ?? classPrior(known);
    return [...byStudent].map(([student, evidence]) => ({
      student,
      outcome,
      ...mastery(evidence, own, asOf, halfLifeDays),
    }));
  });
  return csvOf(
    ['student', 'outcome', 'mean', 'low', 'high', 'effective', 'level'],
    found
      .sort((a, b) => byCode(a.student, b.student) || byCode(a.outcome, b.outcome))
      .map((m) => [m.student, m.outcome, m.mean, m.low, m.high, m.effective, m.level]),
  );
}
