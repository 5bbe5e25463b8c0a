import { studentArchive } from '@/server/export/student';
import { answer, download } from '../../../../../answer';
import { wholeNumber } from '../../../../../../query';

/** All that a course has on record about one student. */
export async function GET(request: Request, { params }: { params: Promise<{ code: string; id: string }> }) {
  return answer(request, async (viewer) => {
    const { code, id } = await params;
    const { name, type, body } = await studentArchive(viewer, code, wholeNumber(id) ?? 0);
    return download(name, type, body);
  });
}
