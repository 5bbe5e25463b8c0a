import { checkHealth } from '@/server/health';

export const dynamic = 'force-dynamic';

/** Whether the server can answer: used by whatever starts it. */
export async function GET() {
  await checkHealth();
  return Response.json({ ready: true });
}
