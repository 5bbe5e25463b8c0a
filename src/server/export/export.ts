import ExcelJS from 'exceljs';
import { FILE_KINDS } from '@/core/course/records';
import { writeCsv } from '@/core/formats/csv';
import { writeOneRoster } from '@/core/formats/oneroster/write';
import { uuidFromHash } from '@/core/formats/uuid';
import { fileTable } from '@/core/formats/writeCourseFiles';
import { eventStatement } from '@/core/formats/xapi/write';
import type { Database } from '@/data/database';
import { now } from '../base/clock';
import { database } from '../base/database';
import { requireCourse, type Viewer } from '../access/viewer';
import { sha1 } from '../xapi/people';
import { LEDGER_KINDS } from '@/core/course/records';
import { courseRecords, eventRecords } from './course';
import { zip } from '../base/zip';

export const EXPORT_FORMATS = ['oneroster', 'xapi', 'csv', 'xlsx'] as const;
export type ExportFormat = (typeof EXPORT_FORMATS)[number];

export interface ExportedFile {
  readonly name: string;
  readonly type: string;
  readonly body: Buffer;
}

/** A whole course in an open format, for whoever teaches it. */
export async function exportCourse(
  viewer: Viewer,
  code: string,
  format: ExportFormat,
): Promise<ExportedFile> {
  const course = await requireCourse(viewer, 'export', code);
  return exportFile(await database(), course.id, format);
}

/** The same for tools. */
export async function exportFile(
  db: Database,
  courseId: number,
  format: ExportFormat,
): Promise<ExportedFile> {
  const records = await courseRecords(db, courseId);
  const { code } = records.whole;
  const ZIP = 'application/zip';
  switch (format) {
    case 'oneroster': {
      // Outcomes, attempts and what stands beside the course have no table in the standard; they go beside it as files of our own.
      const files: Record<string, string> = { ...writeOneRoster(records.whole, now()) };
      for (const kind of ['outcomes', ...LEDGER_KINDS] as const) {
        const { head, rows } = fileTable(kind, records[kind]);
        // A demand of the standard: a file of a package is not empty of records by chance, it is not there.
        if (rows.length > 0 || kind === 'outcomes') files[`${kind}.csv`] = writeCsv(head, rows);
      }
      const body = zip(files);
      return { name: `${code}-oneroster.zip`, type: ZIP, body };
    }
    case 'xapi': {
      const source = {
        base: `https://ready-lantern.example/courses/${encodeURIComponent(code)}`,
        names: new Map(records.roster.map((r) => [r.id, `${r.given} ${r.family}`])),
        titles: new Map(records.activities.map((a) => [a.id, a.title])),
        uuidOf: (text: string) => uuidFromHash(sha1(text)),
      };
      let text = '';
      for (const event of await eventRecords(db, courseId))
        text += `${JSON.stringify(eventStatement(event, source))}\n`;
      return { name: `${code}-statements.zip`, type: ZIP, body: zip({ [`${code}-statements.jsonl`]: text }) };
    }
    case 'csv': {
      const files: Record<string, string> = {};
      const all = { ...records, events: await eventRecords(db, courseId) };
      for (const kind of FILE_KINDS) {
        const { head, rows } = fileTable(kind, all[kind]);
        files[`${kind}.csv`] = writeCsv(head, rows);
      }
      return { name: `${code}-csv.zip`, type: ZIP, body: zip(files) };
    }
    case 'xlsx': {
      const book = new ExcelJS.Workbook();
      // Events are far more than a sheet is good for; they go out as CSV and as statements.
      for (const kind of FILE_KINDS.filter((k) => k !== 'events')) {
        const { head, rows } = fileTable(kind, records[kind]);
        const sheet = book.addWorksheet(kind, { views: [{ state: 'frozen', ySplit: 1 }] });
        sheet.addRow([...head]).font = { bold: true };
        for (const row of rows) sheet.addRow(row);
        head.forEach((label, i) => (sheet.getColumn(i + 1).width = Math.max(12, label.length + 2)));
      }
      return {
        name: `${code}.xlsx`,
        type: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
        body: Buffer.from(await book.xlsx.writeBuffer()),
      };
    }
  }
}
