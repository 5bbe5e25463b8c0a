import { betterAuth } from 'better-auth';
import { drizzleAdapter } from 'better-auth/adapters/drizzle';
import { APIError, createAuthMiddleware } from 'better-auth/api';
import type { Database } from '@/data/database';
import * as yup from 'yup';
import * as schema from '@/data/schema';
import { config } from './config';
import { database } from './database';
import { forgetTries, mayTry } from './signInTries';

export const LEAST_PASSWORD = 10;
/** Begins the names of our cookies. */
export const COOKIE_PREFIX = 'lantern';

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
      // A whole class signs in from one address; guessing is stopped by the account, below.
      customRules: { '/sign-in/email': { window: 60, max: 150 }, '/get-session': { window: 60, max: 600 } },
    },
    hooks: {
      before: createAuthMiddleware(async (context) => {
        const email = emailOf(context.path, context.body);
        if (email != null && !(await mayTry(db, email))) throw new APIError('TOO_MANY_REQUESTS');
      }),
      after: createAuthMiddleware(async (context) => {
        const email = emailOf(context.path, context.body);
        if (email != null && context.context.newSession) await forgetTries(db, email);
      }),
    },
    advanced: {
      // Checked in tests too, where the library would leave it out.
      disableOriginCheck: false,
      disableCSRFCheck: false,
      useSecureCookies: baseUrl.startsWith('https://'),
      cookiePrefix: COOKIE_PREFIX,
    },
  });
}

const signIn = yup.object({ email: yup.string().max(254).required() });

/** The address that a request to sign in names; null for any other request. */
function emailOf(path: string, body: unknown): string | null {
  if (path !== '/sign-in/email') return null;
  return signIn.isValidSync(body) ? body.email.trim().toLowerCase() : null;
}

export type Auth = ReturnType<typeof create>;
const holder = globalThis as typeof globalThis & { lanternAuth?: { db: Database; auth: Auth } };

/** The sign-in library over the database of this process. */
export async function auth(): Promise<Auth> {
  const db = await database();
  if (holder.lanternAuth?.db !== db) holder.lanternAuth = { db, auth: create(db) };
  return holder.lanternAuth.auth;
}
