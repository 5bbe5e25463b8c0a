import { auth } from '@/server/access/auth';

/** The password of every account of the small course. */
export const PASSWORD = 'a password for tests';

/** Signs in by the door that browsers use. */
export const signIn = async (
  email: string,
  password = PASSWORD,
  origin = 'http://lantern.test',
  headers: Readonly<Record<string, string>> = {},
) =>
  (await auth()).handler(
    new Request('http://lantern.test/api/auth/sign-in/email', {
      method: 'POST',
      headers: { 'content-type': 'application/json', host: 'lantern.test', origin, ...headers },
      body: JSON.stringify({ email, password }),
    }),
  );

/** The cookies of an answer, as a browser sends them back; those of one name only if it is given. */
export const cookieOf = (response: Response, name = ''): string =>
  response.headers
    .getSetCookie()
    .map((c) => c.split(';')[0]!)
    .filter((c) => c.startsWith(name))
    .join('; ');
