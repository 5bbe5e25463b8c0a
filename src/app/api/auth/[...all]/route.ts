import { BROKEN_TEXT, holdsBroken } from '@/core/formats/brokenText';
import { parseJson } from '@/core/formats/json';
import { auth } from '@/server/access/auth';
import { invalid, notFound } from '@/server/base/errors';
import { BODY_LIMITS, readBody } from '../../../body';
import { answering } from '../../answer';

/** What of the sign-in library there is a use for here; nothing else of it answers. */
const OPEN = ['/sign-in/email', '/sign-out', '/get-session', '/update-user', '/change-password'];
const BASE = '/api/auth';

const handle = (request: Request) =>
  answering(async () => {
    const url = new URL(request.url);
    if (!OPEN.includes(url.pathname.slice(BASE.length))) throw notFound('page');
    if (request.method !== 'POST') return (await auth()).handler(request);
    const body = await readBody(request, BODY_LIMITS.signIn);
    const text = new TextDecoder().decode(body);
    if (text !== '') {
      const read = parseJson(text);
      if (!read.ok) throw invalid('Send JSON.');
      if (holdsBroken(read.value)) throw invalid(`Something in it is no text: it ${BROKEN_TEXT}.`);
    }
    const { method, headers } = request;
    return (await auth()).handler(new Request(request.url, { method, headers, body }));
  });

export { handle as GET, handle as POST };
