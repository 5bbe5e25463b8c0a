import { cancelJob, jobOf } from '@/server/jobs';
import { requireTaught } from '@/server/viewer';
import { answer, refuseForeignOrigin } from '../../../../answer';

type Params = { params: Promise<{ code: string; id: string }> };

/** How a job of a course stands. */
export async function GET(request: Request, { params }: Params) {
  return answer(request, async (viewer) => {
    const { code, id } = await params;
    await requireTaught(viewer, code);
    return Response.json(jobOf(viewer.userId, id));
  });
}

/** Cancels it. */
export async function DELETE(request: Request, { params }: Params) {
  return answer(request, async (viewer) => {
    refuseForeignOrigin(request);
    const { code, id } = await params;
    await requireTaught(viewer, code);
    return Response.json(cancelJob(viewer.userId, id));
  });
}
