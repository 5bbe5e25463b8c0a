import { betterAuth } from 'better-auth';
import { drizzleAdapter } from 'better-auth/adapters/drizzle';
import type { Database } from '@/data/database';
import * as schema from '@/data/schema';
import { config } from './config';
import { database } from './database';

export const LEAST_PASSWORD = 10;

/** The origin that a request was sent to: pages of it may sign in, pages of any other may not. */
function ownOrigin(request?: Request): string[] {
  const host = request?.headers.get('host');
  return host ? [`http://${host}`, `https://${host}`] : [];
}

function create(db: Database) {
  const { baseUrl, secret } = config();
  return betterAuth({
    baseURL: baseUrl,
    secret,
    telemetry: { enabled: false },
    logger: { disabled: true },
    database: drizzleAdapter(db.orm, { provider: 'pg', schema }),
    trustedOrigins: ownOrigin,
    // Accounts are made by the institution; nobody signs up by themselves.
    emailAndPassword: { enabled: true, disableSignUp: true, minPasswordLength: LEAST_PASSWORD },
    session: { expiresIn: 60 * 60 * 24 * 7, updateAge: 60 * 60 * 24 },
    user: {
      additionalFields: {
        role: { type: 'string', input: false },
        personId: { type: 'number', input: false, required: false },
      },
    },
    rateLimit: {
      enabled: true,
      storage: 'database',
      window: 60,
      max: 300,
      customRules: { '/sign-in/email': { window: 60, max: 10 }, '/get-session': { window: 60, max: 600 } },
    },
    advanced: { useSecureCookies: baseUrl.startsWith('https://'), cookiePrefix: 'lantern' },
  });
}

export type Auth = ReturnType<typeof create>;
const holder = globalThis as typeof globalThis & { lanternAuth?: { db: Database; auth: Auth } };

/** The sign-in library over the database of this process. */
export async function auth(): Promise<Auth> {
  const db = await database();
  if (holder.lanternAuth?.db !== db) holder.lanternAuth = { db, auth: create(db) };
  return holder.lanternAuth.auth;
}
