import { randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import * as yup from 'yup';
import { networkList } from './networks';

/** A setting that lists addresses and networks. */
const networks = (setting: string) =>
  yup.string().test('networks', (text, context) => {
    try {
      networkList(text ?? '');
      return true;
    } catch (error) {
      return context.createError({
        message: `${setting}: ${error instanceof Error ? error.message : 'cannot be read'}`,
      });
    }
  });

const environment = yup
  .object({
    LANTERN_DATA: yup.string(),
    DATABASE_URL: yup.string().matches(/^postgres(ql)?:\/\//, 'DATABASE_URL must begin with postgres://'),
    SMTP_URL: yup
      .string()
      .matches(/^smtps?:\/\//, 'SMTP_URL must begin with smtp:// or smtps://')
      .test(
        'url',
        'SMTP_URL is not an address like smtp://127.0.0.1:25',
        (text) => text == null || URL.canParse(text),
      ),
    LANTERN_MAIL_PLAIN: yup.string().oneOf(['no', 'yes'], 'LANTERN_MAIL_PLAIN is yes or no'),
    LANTERN_MAIL_STANDIN: yup.string().oneOf(['no', 'yes'], 'LANTERN_MAIL_STANDIN is yes or no'),
    LANTERN_MAIL_FROM: yup.string().email('LANTERN_MAIL_FROM must be an e-mail address'),
    LANTERN_SECRET: yup.string().min(32, 'LANTERN_SECRET must have at least 32 characters'),
    LANTERN_URL: yup.string().matches(/^https?:\/\//, 'LANTERN_URL must begin with http:// or https://'),
    LANTERN_XAPI_KEY: yup.string().matches(/^[^:\s]{3,100}$/, 'LANTERN_XAPI_KEY must have no colon or space'),
    LANTERN_XAPI_SECRET: yup.string().min(16, 'LANTERN_XAPI_SECRET must have at least 16 characters'),
    LANTERN_XAPI_COURSE: yup.string(),
    LANTERN_XAPI_ORIGINS: yup
      .string()
      .matches(
        /^\s*(\*|https?:\/\/[^\s,/]+)(\s*,\s*https?:\/\/[^\s,/]+)*\s*$/,
        'LANTERN_XAPI_ORIGINS lists origins like https://player.example, or is *',
      ),
    LANTERN_TRUSTED_PROXIES: networks('LANTERN_TRUSTED_PROXIES'),
    LANTERN_LINKS_TO: networks('LANTERN_LINKS_TO'),
    LANTERN_INBOX: yup.string(),
    LANTERN_MAIL_IN_PORT: yup
      .number()
      .integer()
      .min(0, 'LANTERN_MAIL_IN_PORT is a port from 0 to 65535')
      .max(65535, 'LANTERN_MAIL_IN_PORT is a port from 0 to 65535'),
    LANTERN_MAIL_IN_HOST: yup.string().default('127.0.0.1'),
    LANTERN_MAIL_DOMAIN: yup
      .string()
      .matches(/^[a-z0-9-]+(\.[a-z0-9-]+)+$/i, 'LANTERN_MAIL_DOMAIN is a domain like lantern.school.example'),
    LANTERN_MAIL_VOUCHED_BY: yup
      .string()
      .matches(
        /^[a-z0-9.-]+(\s*,\s*[a-z0-9.-]+)*$/i,
        'LANTERN_MAIL_VOUCHED_BY lists names of mail servers like mx.school.example',
      ),
    LANTERN_CALL_BACK_S: yup
      .number()
      .integer()
      .min(0, 'LANTERN_CALL_BACK_S is a number of seconds')
      .max(600, 'LANTERN_CALL_BACK_S is at most 600 seconds')
      .default(30),
    PORT: yup.number().integer().min(1).max(65535).default(3000),
  })
  .test(
    'pair',
    'LANTERN_XAPI_KEY and LANTERN_XAPI_SECRET go together: set both or none',
    (env) => !env.LANTERN_XAPI_KEY === !env.LANTERN_XAPI_SECRET,
  );

export interface Config {
  readonly dataFolder: string;
  readonly databaseUrl: string | null;
  /** Where mail goes; null if no mail server is set up. */
  readonly smtpUrl: string | null;
  /** Where the mail stand-in keeps what it received. */
  readonly mailFolder: string;
  /** Whether the mail server is the stand-in, whose folder tells what has arrived. */
  readonly usesMailStandIn: boolean;
  /** Whether mail may go in clear to a server elsewhere that offers no encryption. */
  readonly mailMayBePlain: boolean;
  readonly mailFrom: string;
  /** Where answers by e-mail come in, and the domain of their addresses; null where they do not. */
  readonly mailIn: { readonly host: string; readonly port: number; readonly domain: string } | null;
  /** Names of receiving mail servers whose word on the sender of an e-mail counts (RFC 8601). */
  readonly mailVouchers: readonly string[];
  /** Seconds in which a message that goes now can still be called back. */
  readonly callBackS: number;
  readonly baseUrl: string;
  readonly secret: string;
  /** Origins whose pages may read answers of the statements endpoint; `*` is any. */
  readonly xapiOrigins: readonly string[];
  /** Proxies whose word on who sent a request counts; see `networkList`. */
  readonly proxies: string;
  /** Networks that files may be fetched from although they are not public; see `networkList`. */
  readonly linksTo: string;
  /** Where the folders are into which files of courses are put. */
  readonly inbox: string;
  /** A key set from outside for the statements endpoint; null if none is. */
  readonly xapi: { readonly key: string; readonly secret: string; readonly course: string | null } | null;
}

/** On the global object: route handlers, actions and the start load this module each on their own. */
const holder = globalThis as typeof globalThis & { lanternConfig?: Config };

/** The settings of this process, read and checked once; throws with the name of the setting that is wrong. */
export const config = (): Config => (holder.lanternConfig ??= readConfig());

/** Settings from the environment as it is now, checked; for tests and tools that change it. */
export const rereadConfig = (): Config => (holder.lanternConfig = readConfig());

function readConfig(): Config {
  const env = environment.validateSync(process.env, { stripUnknown: true });
  const mailFrom = env.LANTERN_MAIL_FROM ?? 'ready-lantern@saltmarsh.example';
  const dataFolder = resolve(/*turbopackIgnore: true*/ env.LANTERN_DATA ?? '.lantern');
  return {
    dataFolder,
    databaseUrl: env.DATABASE_URL ?? null,
    smtpUrl: env.SMTP_URL ?? null,
    mailFolder: join(dataFolder, 'mail'),
    usesMailStandIn: env.LANTERN_MAIL_STANDIN === 'yes',
    mailMayBePlain: env.LANTERN_MAIL_PLAIN === 'yes',
    mailFrom,
    mailIn:
      env.LANTERN_MAIL_IN_PORT == null
        ? null
        : {
            host: env.LANTERN_MAIL_IN_HOST,
            port: env.LANTERN_MAIL_IN_PORT,
            domain: env.LANTERN_MAIL_DOMAIN ?? mailFrom.split('@')[1]!,
          },
    mailVouchers: (env.LANTERN_MAIL_VOUCHED_BY ?? '').split(',').flatMap((host) => host.trim() || []),
    callBackS: env.LANTERN_CALL_BACK_S,
    baseUrl: env.LANTERN_URL ?? `http://localhost:${env.PORT}`,
    secret: env.LANTERN_SECRET ?? ownSecret(dataFolder),
    xapiOrigins: (env.LANTERN_XAPI_ORIGINS ?? '').split(',').flatMap((o) => o.trim() || []),
    proxies: env.LANTERN_TRUSTED_PROXIES ?? '',
    linksTo: env.LANTERN_LINKS_TO ?? '',
    inbox: resolve(/*turbopackIgnore: true*/ env.LANTERN_INBOX ?? join(dataFolder, 'inbox')),
    xapi:
      env.LANTERN_XAPI_KEY && env.LANTERN_XAPI_SECRET
        ? {
            key: env.LANTERN_XAPI_KEY,
            secret: env.LANTERN_XAPI_SECRET,
            course: env.LANTERN_XAPI_COURSE ?? null,
          }
        : null,
  };
}

/** The secret that signs session cookies: made once and kept in the data folder, readable by its owner only. */
function ownSecret(dataFolder: string): string {
  const file = join(dataFolder, 'secret');
  if (!existsSync(file)) {
    mkdirSync(dataFolder, { recursive: true });
    writeFileSync(file, randomBytes(32).toString('hex'), { mode: 0o600, flag: 'wx' });
  }
  return readFileSync(file, 'utf8').trim();
}
