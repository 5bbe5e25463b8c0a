import { createServer, type IncomingMessage, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { Readable } from 'node:stream';
import * as rest from '@/app/xapi/[[...rest]]/route';
import * as about from '@/app/xapi/about/route';
import * as activityProfile from '@/app/xapi/activities/profile/route';
import * as activities from '@/app/xapi/activities/route';
import * as state from '@/app/xapi/activities/state/route';
import * as agentProfile from '@/app/xapi/agents/profile/route';
import * as agents from '@/app/xapi/agents/route';
import * as statements from '@/app/xapi/statements/route';

const ROUTES: Readonly<Record<string, object>> = {
  '/xapi/about': about,
  '/xapi/statements': statements,
  '/xapi/activities': activities,
  '/xapi/activities/state': state,
  '/xapi/activities/profile': activityProfile,
  '/xapi/agents': agents,
  '/xapi/agents/profile': agentProfile,
};

function requestOf(incoming: IncomingMessage): Request {
  const headers = new Headers();
  for (const [name, value] of Object.entries(incoming.headers)) headers.set(name, String(value));
  const bodiless = ['GET', 'HEAD', 'OPTIONS'].includes(incoming.method!);
  const init: RequestInit & { duplex: 'half' } = {
    method: incoming.method,
    headers,
    body: bodiless ? undefined : (Readable.toWeb(incoming) as ReadableStream),
    duplex: 'half',
  };
  return new Request(`http://localhost${incoming.url}`, init);
}

/** The handlers of the statements endpoint behind a real HTTP server, as the framework calls them. */
export async function xapiServer(): Promise<{ readonly server: Server; readonly endpoint: string }> {
  const server = createServer((incoming, outgoing) => {
    void (async () => {
      const route = ROUTES[new URL(incoming.url!, 'http://localhost').pathname] ?? rest;
      const handle = new Map(Object.entries(route)).get(incoming.method!) as (
        r: Request,
      ) => Promise<Response>;
      const response = await handle(requestOf(incoming));
      outgoing.writeHead(response.status, Object.fromEntries(response.headers));
      outgoing.end(Buffer.from(await response.arrayBuffer()));
    })();
  });
  await new Promise<void>((resolve) => server.listen(0, resolve));
  return { server, endpoint: `http://localhost:${(server.address() as AddressInfo).port}/xapi` };
}
