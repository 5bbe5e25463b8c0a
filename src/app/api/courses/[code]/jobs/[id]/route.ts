import { cancelJob, jobOf } from '@/server/jobs/view';
import { requireViewer } from '@/server/access/viewer';
import { answering, refuseForeignOrigin } from '../../../../answer';

type Params = { params: Promise<{ code: string; id: string }> };

/** How a job stands, for whoever began it. */
export async function GET(request: Request, { params }: Params) {
  return answering(async () => {
    const { userId } = await requireViewer(request.headers);
    return Response.json(await jobOf(userId, (await params).id));
  });
}

/** Cancels it. */
export async function DELETE(request: Request, { params }: Params) {
  return answering(async () => {
    refuseForeignOrigin(request);
    const { userId } = await requireViewer(request.headers);
    return Response.json(await cancelJob(userId, (await params).id));
  });
}
