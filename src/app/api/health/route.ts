import { databaseState } from '@/server/health';

export const dynamic = 'force-dynamic';

/** Whether the process answers, and, under a key of its own, how the database is. */
export async function GET() {
  return Response.json({ ready: true, database: await databaseState() });
}
