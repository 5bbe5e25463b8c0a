import { betterAuth } from 'better-auth';
import { drizzleAdapter } from 'better-auth/adapters/drizzle';
import { APIError, createAuthMiddleware } from 'better-auth/api';
import type { Database } from '@/data/database';
import * as yup from 'yup';
import { SECOND_MS } from '@/core/units';
import * as schema from '@/data/schema';
import { config } from '../base/config';
import { database } from '../base/database';
import { DEVICE_AGE_S, DEVICE_COOKIE, knownDevice, newDevice } from './device';
import { PEER_HEADER, peerOf } from '../base/peer';
import { ALL_SENDERS, forgetTries, ONE_SENDER, pauseBefore } from './signInTries';

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
        if (context.path === '/update-user') checkProfile(context.body);
        const email = emailOf(context.path, context.body);
        if (email == null) return;
        const device = knownDevice(context.getCookie(DEVICE_COOKIE), email);
        const wait = await pauseOf(db, email, device, peerOf(context.headers ?? new Headers()));
        if (wait > 0)
          throw new APIError(
            'TOO_MANY_REQUESTS',
            { message: `Too many tries; wait ${Math.ceil(wait / SECOND_MS)} seconds.` },
            { 'retry-after': String(Math.ceil(wait / SECOND_MS)) },
          );
      }),
      after: createAuthMiddleware(async (context) => {
        const email = emailOf(context.path, context.body);
        if (email == null || !context.context.newSession) return;
        const device = knownDevice(context.getCookie(DEVICE_COOKIE), email);
        await forgetTries(db, senderName(email, device, peerOf(context.headers ?? new Headers())));
        await forgetTries(db, anywhere(email));
        if (device != null) return;
        context.setCookie(DEVICE_COOKIE, newDevice(email), {
          httpOnly: true,
          sameSite: 'lax',
          secure: baseUrl.startsWith('https://'),
          path: '/api/auth',
          maxAge: DEVICE_AGE_S,
        });
      }),
    },
    advanced: {
      // Checked in tests too, where the library would leave it out.
      disableOriginCheck: false,
      disableCSRFCheck: false,
      // What the process itself found out of who sent a request; nothing that a sender says.
      ipAddress: { ipAddressHeaders: [PEER_HEADER] },
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

/** What a sender's tries at an account are counted under: their device if it is known, else their address. */
const senderName = (email: string, device: string | null, peer: string): string =>
  device == null ? `${email} from ${peer}` : `${email} on ${device}`;

const anywhere = (email: string): string => `${email} from anywhere`;

/** How long a try at an account must wait, in milliseconds; 0 if it need not. */
async function pauseOf(db: Database, email: string, device: string | null, peer: string): Promise<number> {
  const own = await pauseBefore(db, senderName(email, device, peer), ONE_SENDER);
  // Others' tries do not keep the owner out.
  if (own > 0 || device != null) return own;
  return pauseBefore(db, anywhere(email), ALL_SENDERS);
}

/** Characters that nothing readable needs in a name: controls, marks of direction, line ends. */
const UNREADABLE = /[\p{Cc}\p{Cf}\p{Co}\p{Cn}\p{Zl}\p{Zp}]/u;
export const LONGEST_NAME = 80;
const profile = yup
  .object({
    name: yup
      .string()
      .trim()
      .max(LONGEST_NAME, `The name is longer than ${LONGEST_NAME} characters.`)
      .test('readable', 'The name holds characters that cannot be read.', (v) => !UNREADABLE.test(v ?? ''))
      .required('The name is empty.'),
  })
  .noUnknown('Only the name can be changed here.')
  .required('There is nothing in it.');

/** Refuses a change of one's own display name, or of anything else of one's account, that is none. */
function checkProfile(body: unknown): void {
  try {
    profile.validateSync(body, { strict: true });
  } catch (error) {
    if (!(error instanceof yup.ValidationError)) throw error;
    throw new APIError('BAD_REQUEST', { message: error.message });
  }
}

export type Auth = ReturnType<typeof create>;
const holder = globalThis as typeof globalThis & { lanternAuth?: { db: Database; auth: Auth } };

/** The sign-in library over the database of this process. */
export async function auth(): Promise<Auth> {
  const db = await database();
  if (holder.lanternAuth?.db !== db) holder.lanternAuth = { db, auth: create(db) };
  return holder.lanternAuth.auth;
}
