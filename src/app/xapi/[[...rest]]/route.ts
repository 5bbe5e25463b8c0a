import { preflight } from '../cors';
import { inJson } from '../speak';

export const dynamic = 'force-dynamic';

/** What is not there is said in JSON: clients read nothing else. */
const nothing = (request: Request) =>
  inJson(request, () => Response.json({ message: 'There is no such resource.' }, { status: 404 }));

export {
  nothing as GET,
  nothing as PUT,
  nothing as POST,
  nothing as DELETE,
  nothing as PATCH,
  nothing as HEAD,
};

export const OPTIONS = (request: Request) => inJson(request, () => preflight(request, ['OPTIONS']));
