import { sheetCsv } from '@/core/formats/sheet';
import { notFound } from '@/server/base/errors';
import { exportTable } from '@/server/export/tables';
import { sheetXlsx } from '@/server/export/xlsx';
import { answer, download } from '../../../../answer';

const XLSX = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';

/** A table of a view as CSV or as a spreadsheet, with the filter, order and window of its address. */
export async function GET(request: Request, { params }: { params: Promise<{ code: string; file: string }> }) {
  return answer(request, async (viewer) => {
    const { code, file } = await params;
    const [, name, format] = /^([a-z-]{1,20})\.(csv|xlsx)$/.exec(file) ?? [];
    if (!name) throw notFound('list');
    const table = await exportTable(
      viewer,
      code,
      name,
      Object.fromEntries(new URL(request.url).searchParams),
    );
    return format === 'csv'
      ? download(`${table.name}.csv`, 'text/csv; charset=utf-8', `\ufeff${sheetCsv(table)}`)
      : download(`${table.name}.xlsx`, XLSX, await sheetXlsx(table));
  });
}
