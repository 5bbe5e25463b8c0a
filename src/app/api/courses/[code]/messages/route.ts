import { parseJson } from '@/core/formats/json';
import { invalid } from '@/server/base/errors';
import { sendAction } from '@/actions/send';
import { BODY_LIMITS, readBody } from '../../../../body';
import { answer, refuseForeignOrigin } from '../../../answer';

/** Takes a message to many, and answers as an action does. */
export async function POST(request: Request, { params }: { params: Promise<{ code: string }> }) {
  return answer(request, async () => {
    refuseForeignOrigin(request);
    const { code } = await params;
    const read = parseJson(new TextDecoder().decode(await readBody(request, BODY_LIMITS.message)));
    if (!read.ok || typeof read.value !== 'object' || read.value === null) throw invalid('Send JSON.');
    return Response.json(await sendAction({ ...read.value, code }));
  });
}
