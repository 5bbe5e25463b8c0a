import { cancelJob, jobOf } from '@/server/jobs';
import { seenLately } from '@/server/seenLately';
import { requireViewer } from '@/server/viewer';
import { answering, refuseForeignOrigin } from '../../../../answer';

type Params = { params: Promise<{ code: string; id: string }> };

/** A job holds the database while it runs, so it must not be needed to ask after the job, or to stop it. */
const userOf = async ({ headers }: Request): Promise<string> =>
  seenLately(headers) ?? (await requireViewer(headers)).userId;

/** How a job stands, for whoever began it. */
export async function GET(request: Request, { params }: Params) {
  return answering(async () => Response.json(jobOf(await userOf(request), (await params).id)));
}

/** Cancels it. */
export async function DELETE(request: Request, { params }: Params) {
  return answering(async () => {
    refuseForeignOrigin(request);
    return Response.json(cancelJob(await userOf(request), (await params).id));
  });
}
