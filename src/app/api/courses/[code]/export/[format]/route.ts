import { notFound } from '@/server/base/errors';
import { EXPORT_FORMATS, exportCourse } from '@/server/export/export';
import { answer, download } from '../../../../answer';

/** A whole course in an open format. */
export async function GET(
  request: Request,
  { params }: { params: Promise<{ code: string; format: string }> },
) {
  return answer(request, async (viewer) => {
    const { code, format: asked } = await params;
    const format = EXPORT_FORMATS.find((f) => f === asked);
    if (!format) throw notFound('format');
    const { name, type, body } = await exportCourse(viewer, code, format);
    return download(name, type, body);
  });
}
