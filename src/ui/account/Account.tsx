'use client';
import Link from 'next/link';
import { signOutDeviceAction, signOutElsewhereAction } from '@/actions/account';
import { counted, dayAndTime } from '@/core/format';
import type { AccountView, DeviceView } from '@/core/views/account';
import { Awake } from '../parts/Awake';
import { Button, buttonClasses } from '../parts/Button';
import { Panel } from '../parts/Panel';
import { useAct } from '../parts/useAct';
import { useAlive } from '../parts/useAlive';
import { Wordmark } from '../parts/Wordmark';
import { SignOut } from '../shell/SignOut';
import { ThemeSwitch } from '../shell/ThemeSwitch';

/** One's own account: where one is signed in, and how to end that. */
export function Account({ account }: { readonly account: AccountView }) {
  const { busy, act } = useAct();
  const alive = useAlive();
  const others = account.devices.filter((d) => !d.isThis);
  return (
    <div className="mx-auto max-w-2xl px-4 py-6">
      <div className="mb-6 flex items-center justify-between">
        <Wordmark large />
        <span className="flex items-center">
          <ThemeSwitch />
          <SignOut />
        </span>
      </div>
      <main className="space-y-4">
        <Awake />
        <div className="flex flex-wrap items-center justify-between gap-2">
          <h1 className="font-serif text-2xl font-semibold">Your account</h1>
          <Link href={account.home} className={buttonClasses('plain')}>
            Back
          </Link>
        </div>
        <p>
          {account.name}, {account.email}
        </p>
        <Panel className="p-4">
          <h2 className="font-serif text-lg font-semibold">Where you’re signed in</h2>
          <p className="text-muted mb-2 text-[13px]">
            If you don’t recognize a device, sign it out and ask whoever runs Ready Lantern for a new
            password.
          </p>
          <ul className="divide-line divide-y">
            {account.devices.map((device) => (
              <li key={device.id} className="flex flex-wrap items-center justify-between gap-2 py-2.5">
                <span>
                  <span className="font-semibold">{device.name}</span>
                  {device.isThis ? ' (this device)' : ''}
                  <span className="text-muted block min-h-5 text-[13px]">{alive ? used(device) : null}</span>
                </span>
                {device.isThis ? null : (
                  <Button
                    small
                    disabled={!alive || busy}
                    aria-label={`Sign out ${device.name}`}
                    onClick={() =>
                      act(() => signOutDeviceAction({ id: device.id }), {
                        done: `${device.name} is signed out.`,
                      })
                    }
                  >
                    Sign out
                  </Button>
                )}
              </li>
            ))}
          </ul>
          {others.length > 0 ? (
            <Button
              disabled={!alive || busy}
              onClick={() =>
                act(() => signOutElsewhereAction({}), {
                  done: (n) => `Signed out on ${counted(n, 'other device')}.`,
                })
              }
            >
              Sign out everywhere else
            </Button>
          ) : null}
        </Panel>
      </main>
    </div>
  );
}

/** In the zone of whoever looks: an account belongs to no course. */
function used({ since, lastUsed }: DeviceView): string {
  const zone = Intl.DateTimeFormat().resolvedOptions().timeZone;
  return `Signed in ${dayAndTime(since, zone)}, last used ${dayAndTime(lastUsed, zone)}`;
}
