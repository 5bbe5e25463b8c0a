import { deviceWords } from '@/core/access/deviceWords';
import type { AccountView, DeviceView } from '@/core/views/account';
import { notFound } from '../base/errors';
import { auth } from './auth';
import type { Viewer } from './viewer';

/** The viewer's account, with the browsers in which they are signed in. */
export async function accountView(viewer: Viewer, headers: Headers): Promise<AccountView> {
  const { api } = await auth();
  const [sessions, current] = await Promise.all([api.listSessions({ headers }), api.getSession({ headers })]);
  const devices = sessions
    .map((s): DeviceView => ({
      id: s.id,
      name: deviceWords(s.userAgent ?? null),
      since: new Date(s.createdAt).getTime(),
      lastUsed: new Date(s.updatedAt).getTime(),
      isThis: s.id === current?.session.id,
    }))
    .sort((a, b) => Number(b.isThis) - Number(a.isThis) || b.lastUsed - a.lastUsed);
  return {
    name: viewer.name,
    email: current?.user.email ?? '',
    home: viewer.role === 'student' ? '/home' : '/',
    devices,
  };
}

/** Signs the viewer out in one of their browsers. */
export async function signOutDevice(_viewer: Viewer, headers: Headers, id: string): Promise<void> {
  const { api } = await auth();
  const found = (await api.listSessions({ headers })).find((s) => s.id === id);
  if (!found) throw notFound('device of yours');
  await api.revokeSession({ headers, body: { token: found.token } });
}

/** Signs the viewer out everywhere but here. Returns in how many browsers. */
export async function signOutElsewhere(viewer: Viewer, headers: Headers): Promise<number> {
  const { devices } = await accountView(viewer, headers);
  await (await auth()).api.revokeOtherSessions({ headers });
  return devices.filter((d) => !d.isThis).length;
}
