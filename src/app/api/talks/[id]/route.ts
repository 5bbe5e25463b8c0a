import { notFound } from '@/server/base/errors';
import { talkFile } from '@/server/look/talks';
import { answer, download } from '../../answer';

/** A talk as a calendar file (RFC 5545), for the student or for whose talk it is. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (viewer) => {
    const { id } = await params;
    if (!/^\d{1,9}$/.test(id)) throw notFound('talk of yours');
    const { name, text } = await talkFile(viewer, Number(id));
    return download(name, 'text/calendar; charset=utf-8', text);
  });
}
