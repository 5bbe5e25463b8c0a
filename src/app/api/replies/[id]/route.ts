import { notFound } from '@/server/base/errors';
import { keptAnswer } from '@/server/act/conversation';
import { answer, download } from '../../answer';

/** An e-mail of a student that can't be read here, just as it came. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (viewer) => {
    const { id } = await params;
    if (!/^\d{1,9}$/.test(id)) throw notFound('e-mail');
    const file = await keptAnswer(viewer, Number(id));
    return download(file.name, 'application/octet-stream', file.bytes);
  });
}
