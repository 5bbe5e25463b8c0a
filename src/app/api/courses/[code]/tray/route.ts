import { trayCsv } from '@/server/export/tray';
import { answer, download } from '../../../answer';

/** The selection tray as CSV. */
export async function GET(request: Request, { params }: { params: Promise<{ code: string }> }) {
  return answer(request, async (viewer) => {
    const { code } = await params;
    return download(`${code}-selection.csv`, 'text/csv; charset=utf-8', await trayCsv(viewer, code));
  });
}
