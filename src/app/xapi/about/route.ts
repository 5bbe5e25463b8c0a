import { preflight } from '../cors';
import { inJson, VERSIONS } from '../speak';

export const dynamic = 'force-dynamic';

/** What this endpoint speaks (part three, 2.8). Needs no key. */
export const GET = (request: Request) =>
  inJson(request, () => Response.json({ version: ['1.0.0', '1.0.1', '1.0.2', ...VERSIONS] }));

export const OPTIONS = (request: Request) =>
  inJson(request, () => preflight(request, ['GET', 'HEAD', 'OPTIONS']));

const other = (request: Request) =>
  inJson(request, () =>
    Response.json(
      { message: `${request.method} is not for this resource.` },
      { status: 405, headers: { allow: 'GET, HEAD, OPTIONS' } },
    ),
  );
export { other as PUT, other as POST, other as DELETE, other as PATCH };
