import { invalid } from '@/server/errors';
import { previewImport, UPLOAD_LIMITS } from '@/server/intake/intake';
import { answer, refuseForeignOrigin } from '../../../answer';

/** Takes course files and answers with what importing them would do. */
export async function POST(request: Request, { params }: { params: Promise<{ code: string }> }) {
  return answer(request, async (viewer) => {
    refuseForeignOrigin(request);
    const tooLarge = () =>
      invalid(`Together the files may have at most ${UPLOAD_LIMITS.bytes / 1024 / 1024} MB.`);
    if (Number(request.headers.get('content-length') ?? 0) > UPLOAD_LIMITS.bytes) throw tooLarge();
    const { code } = await params;
    const form = await request.formData().catch(() => {
      throw invalid('The upload was cut off; choose the files again.');
    });
    const files = form.getAll('files').filter((f) => f instanceof File);
    if (files.length > UPLOAD_LIMITS.files)
      throw invalid(`Choose at most ${UPLOAD_LIMITS.files} files at once.`);
    if (files.reduce((sum, f) => sum + f.size, 0) > UPLOAD_LIMITS.bytes) throw tooLarge();
    const uploads = await Promise.all(
      files.map(async (f) => ({ name: f.name, bytes: new Uint8Array(await f.arrayBuffer()) })),
    );
    return Response.json(await previewImport(viewer, code, uploads));
  });
}
