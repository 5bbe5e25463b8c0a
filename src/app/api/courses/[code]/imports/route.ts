import { previewStaged } from '@/server/intake/intake';
import { receiveFiles } from '@/server/intake/receive';
import { answer, refuseForeignOrigin } from '../../../answer';

/** Takes course files and answers with what importing them would do. */
export async function POST(request: Request, { params }: { params: Promise<{ code: string }> }) {
  return answer(request, async (viewer) => {
    refuseForeignOrigin(request);
    const { code } = await params;
    const length = request.headers.get('content-length');
    const id = await receiveFiles(viewer, code, {
      contentType: request.headers.get('content-type') ?? '',
      length: length == null ? null : Number(length),
      body: request.body,
    });
    return Response.json(await previewStaged(viewer, code, id));
  });
}
