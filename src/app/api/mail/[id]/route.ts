import { notFound } from '@/server/base/errors';
import { mailFile } from '@/server/act/messages';
import { answer, download } from '../../answer';

/** The e-mail of one recipient as the mail stand-in received it (RFC 5322). */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (viewer) => {
    const { id } = await params;
    if (!/^\d{1,9}$/.test(id)) throw notFound('message');
    const file = await mailFile(viewer, Number(id));
    return download(file.name, 'message/rfc822', file.bytes);
  });
}
