import { VERSIONS } from '../speak';

export const dynamic = 'force-dynamic';

/** What this endpoint speaks (part three, 2.8). Needs no key. */
export function GET() {
  return Response.json(
    { version: ['1.0.0', '1.0.1', '1.0.2', ...VERSIONS] },
    { headers: { 'x-experience-api-version': VERSIONS[0] } },
  );
}
