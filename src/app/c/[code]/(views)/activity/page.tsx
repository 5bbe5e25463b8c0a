import type { Metadata } from 'next';
import { activityView } from '@/server/look/activity';
import { Activity } from '@/ui/activity/Activity';
import { page } from '../../../../page-guard';
import { askedScope, oneOf, type PageProps } from '../../../../query';

export const metadata: Metadata = { title: 'Activity' };

export default async function ActivityPage({ params, searchParams }: PageProps<{ code: string }>) {
  const { code } = await params;
  const query = await searchParams;
  const view = await page((viewer) =>
    activityView(viewer, code, { ...askedScope(query), tab: oneOf(query.tab) }),
  );
  return <Activity view={view} />;
}
