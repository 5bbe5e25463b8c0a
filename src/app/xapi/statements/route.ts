import { checkStatements, receiveStatements } from '@/server/xapi/endpoint';
import { findStatements, readFilters, statementById } from '@/server/xapi/query';
import { StatementConflict } from '@/server/xapi/store';
import { alternateRequest } from '../alternate';
import { jsonBody, refused, speak, tagged } from '../speak';

export const dynamic = 'force-dynamic';

/** Stores one statement or several; answers with their ids in order. */
export async function POST(request: Request) {
  let meant: Request | null;
  try {
    meant = await alternateRequest(request);
  } catch (error) {
    return refused(error, '1.0.3');
  }
  if (meant?.method === 'GET') return GET(meant);
  if (meant?.method === 'PUT') return PUT(meant);
  return post(meant ?? request);
}

async function post(request: Request) {
  return speak(request, async (sender) => {
    if (new URL(request.url).search !== '') throw new StatementConflict(400, 'POST takes no parameters.');
    const list = checkStatements(await jsonBody(request));
    return Response.json(await receiveStatements(sender, list));
  });
}

/** Stores one statement under the id of the address. */
export async function PUT(request: Request) {
  return speak(request, async (sender) => {
    const query = new URL(request.url).searchParams;
    const id = query.get('statementId');
    if (!id || [...query.keys()].length !== 1)
      throw new StatementConflict(400, 'PUT takes statementId and nothing else.');
    const body = await jsonBody(request);
    const [statement, more] = checkStatements(body);
    if (more || Array.isArray(body)) throw new StatementConflict(400, 'PUT takes one statement.');
    if (statement!.id && statement!.id.toLowerCase() !== id.toLowerCase())
      throw new StatementConflict(400, 'The id of the statement is not that of the address.');
    await receiveStatements(sender, checkStatements({ ...statement, id }));
    return new Response(null, { status: 204 });
  });
}

/** One statement by id, or a page of those that match. */
export async function GET(request: Request) {
  return speak(request, async (sender) => {
    const asked = readFilters(new URL(request.url).searchParams);
    const id = asked.statementId ?? asked.voidedStatementId;
    const through = { 'x-experience-api-consistent-through': new Date().toISOString() };
    if (id) {
      const found = await statementById(sender.courseId, id, asked.voidedStatementId != null);
      if (!found)
        return Response.json({ message: 'There is no such statement.' }, { status: 404, headers: through });
      return tagged(request, found.statement, { ...through, 'last-modified': found.stored.toUTCString() });
    }
    return tagged(request, await findStatements(sender.courseId, asked), through);
  });
}
