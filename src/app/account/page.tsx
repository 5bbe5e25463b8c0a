import type { Metadata } from 'next';
import { headers } from 'next/headers';
import { accountView } from '@/server/access/devices';
import { Account } from '@/ui/account/Account';
import { page } from '../page-guard';

export const metadata: Metadata = { title: 'Your account' };

export default async function AccountPage() {
  return <Account account={await page(async (viewer) => accountView(viewer, await headers()))} />;
}
