import * as yup from 'yup';
import { UseCaseError, type Refusal } from '@/server/base/errors';
import { reportFailure } from '@/server/base/failure';
import { requireViewer, type Viewer } from '@/server/access/viewer';

/** The status of a refusal (RFC 9110, 15.5; RFC 6585, 4). */
export const STATUS: Record<Refusal, number> = {
  'signed out': 401,
  forbidden: 403,
  'not found': 404,
  invalid: 400,
  conflict: 409,
  'too large': 413,
  'too many': 429,
};

/** Runs a route handler for whoever is signed in; refusals become their status with the reason as JSON. */
export async function answer(
  request: Request,
  handle: (viewer: Viewer) => Promise<Response>,
): Promise<Response> {
  return answering(async () => handle(await requireViewer(request.headers)));
}

/** The same for a handler that finds out itself who asks. */
export async function answering(handle: () => Promise<Response>): Promise<Response> {
  try {
    return await handle();
  } catch (error) {
    if (error instanceof UseCaseError) {
      return Response.json({ message: error.message }, { status: STATUS[error.refusal] });
    }
    if (error instanceof yup.ValidationError)
      return Response.json({ message: error.message }, { status: 400 });
    const said = reportFailure('request', error);
    return Response.json(
      { message: said ?? 'Something went wrong here; try again.' },
      { status: said ? 507 : 500 },
    );
  }
}

/** Refuses a writing request that another site's page sent. */
export function refuseForeignOrigin(request: Request): void {
  const origin = request.headers.get('origin');
  const host = request.headers.get('host');
  // A page in a sandbox names its origin “null”, which is no address.
  if (!origin || !URL.canParse(origin) || new URL(origin).host !== host)
    throw new UseCaseError('forbidden', 'Sent from another site.');
}

/** A file to keep. */
export function download(name: string, type: string, body: string | Buffer): Response {
  return new Response(typeof body === 'string' ? body : new Uint8Array(body), {
    headers: {
      'content-type': type,
      'content-disposition': `attachment; filename="${name.replace(/[^\w.@-]+/g, '_')}"`,
      'cache-control': 'no-store',
    },
  });
}
