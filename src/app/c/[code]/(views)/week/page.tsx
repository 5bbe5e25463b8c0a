import type { Metadata } from 'next';
import { weekView } from '@/server/look/week';
import { Week } from '@/ui/week/Week';
import { page } from '../../../../page-guard';
import { askedScope, type PageProps } from '../../../../query';

export const metadata: Metadata = { title: 'Weekly look' };

export default async function WeekPage({ params, searchParams }: PageProps<{ code: string }>) {
  const { code } = await params;
  const asked = askedScope(await searchParams);
  const view = await page((viewer) => weekView(viewer, code, asked));
  return <Week view={view} />;
}
