import { exampleFile } from '@/server/intake/examples';
import { answer, download } from '../../../../answer';

/** An example of one of the course files. */
export async function GET(request: Request, { params }: { params: Promise<{ code: string; file: string }> }) {
  return answer(request, async (viewer) => {
    const { code, file } = await params;
    const example = await exampleFile(viewer, code, file);
    return download(example.name, 'text/csv; charset=utf-8', example.bytes);
  });
}
