import ExcelJS from 'exceljs';
import { wallDate } from '@/core/formats/sheet';
import { type SheetTable } from '@/core/tables/sheet';

/** A spreadsheet forbids these in the name of a tab, and more than 31 characters. */
const tabName = (name: string) => name.replace(/[[\]:*?/\\]/g, ' ').slice(0, 31);

/**
 * A table as an Office Open XML workbook (ECMA-376): figures as numbers, instants as dates on the course's clock,
 * texts as texts whatever they begin with, so that none is ever run as a formula. A second sheet says what it shows.
 */
export async function sheetXlsx(table: SheetTable): Promise<Buffer> {
  const book = new ExcelJS.Workbook();
  const sheet = book.addWorksheet(tabName(table.name), { views: [{ state: 'frozen', ySplit: 1 }] });
  sheet.addRow([...table.head]).font = { bold: true };
  for (const row of table.rows) {
    const added = sheet.addRow(
      row.map((cell) => (cell != null && typeof cell === 'object' ? wallDate(cell.at, table.zone) : cell)),
    );
    row.forEach((cell, i) => {
      if (cell != null && typeof cell === 'object') added.getCell(i + 1).numFmt = 'yyyy-mm-dd hh:mm';
    });
  }
  table.head.forEach((label, i) => {
    const longest = Math.max(
      label.length,
      ...table.rows
        .slice(0, 200)
        .map((r) => (r[i] != null && typeof r[i] === 'object' ? 16 : String(r[i] ?? '').length)),
    );
    sheet.getColumn(i + 1).width = Math.min(48, longest + 2);
  });
  sheet.autoFilter = { from: { row: 1, column: 1 }, to: { row: 1, column: Math.max(1, table.head.length) } };
  const about = book.addWorksheet('About');
  for (const [what, value] of table.about) about.addRow([what, value]);
  about.getColumn(1).width = 18;
  about.getColumn(2).width = 60;
  return Buffer.from(await book.xlsx.writeBuffer());
}
