import Papa from 'papaparse';
import { dropDuplicates, toColumns, type StudentEvent } from '@/core/activity/events';
import type { SessionOptions } from '@/core/activity/dwell';
import { sessionize } from '@/core/activity/sessions';
import { ANY_YEAR, formatInstant, parseInstant } from '@/core/calendar/instant';
import type { TableSpec } from '@/core/formats/table';
import { readRows } from './input';

const spec: TableSpec<StudentEvent> = {
  required: ['student', 'at'],
  optional: ['event_id', 'kind', 'activity', 'duration_s'],
  read: (row) => {
    const student = row.required('student');
    row.required('at');
    return {
      id: row.optional('event_id'),
      student,
      at: row.read('at', (text) => parseInstant(text, ANY_YEAR)) ?? 0,
      kind: row.text('kind').toLowerCase(),
      duration: row.number('duration_s', 0, 1e9),
    };
  },
};

/** `sessions`: the sessions of the events in a file, as CSV by student and start. */
export function sessionsCommand(file: string, options: SessionOptions): string {
  const { columns, students } = toColumns(dropDuplicates(readRows(file, spec)));
  const { sessions } = sessionize(columns, options);
  const rows = Array.from({ length: sessions.count }, (_, i) => [
    students[sessions.student[i]!]!,
    formatInstant(sessions.start[i]!),
    formatInstant(Math.round(sessions.end[i]!)),
    Math.round(sessions.seconds[i]! * 1000) / 1000,
    sessions.events[i]!,
  ]);
  return `${Papa.unparse({ fields: ['student', 'start', 'end', 'seconds', 'events'], data: rows }, { newline: '\n' })}\n`;
}
