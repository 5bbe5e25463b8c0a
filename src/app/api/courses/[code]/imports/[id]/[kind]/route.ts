import { FILE_KINDS } from '@/core/course/records';
import { notFound } from '@/server/base/errors';
import { rejectedCsv } from '@/server/intake/rejected';
import { answer, download } from '../../../../../answer';

/** The rejected rows of one file of an upload. */
export async function GET(
  request: Request,
  { params }: { params: Promise<{ code: string; id: string; kind: string }> },
) {
  return answer(request, async (viewer) => {
    const { code, id, kind: asked } = await params;
    const kind = ([...FILE_KINDS, 'statements'] as const).find((k) => k === asked);
    if (!kind) throw notFound('kind of file');
    const csv = await rejectedCsv(viewer, code, id, kind);
    return download(`${code}-${kind}-rejected.csv`, 'text/csv; charset=utf-8', csv);
  });
}
