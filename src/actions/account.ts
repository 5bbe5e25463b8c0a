'use server';
import { revalidatePath } from 'next/cache';
import { headers } from 'next/headers';
import * as yup from 'yup';
import { signOutDevice, signOutElsewhere } from '@/server/access/devices';
import { asks } from './run';

const deviceInput = yup.object({ id: yup.string().max(100).required() });

/** Signs out in one browser. */
export const signOutDeviceAction = asks(deviceInput, async (viewer, { id }) => {
  await signOutDevice(viewer, await headers(), id);
  revalidatePath('/account');
});

/** Signs out in all browsers but this one. */
export const signOutElsewhereAction = asks(yup.object({}), async (viewer) => {
  const count = await signOutElsewhere(viewer, await headers());
  revalidatePath('/account');
  return count;
});
