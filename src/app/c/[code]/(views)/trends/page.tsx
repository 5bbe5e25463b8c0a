import type { Metadata } from 'next';
import { trendsView } from '@/server/look/trends';
import { Trends } from '@/ui/trends/Trends';
import { page } from '../../../../page-guard';
import { askedScope, wholeNumber, type PageProps } from '../../../../query';

export const metadata: Metadata = { title: 'Trends' };

export default async function TrendsPage({ params, searchParams }: PageProps<{ code: string }>) {
  const { code } = await params;
  const query = await searchParams;
  const view = await page((viewer) =>
    trendsView(viewer, code, { ...askedScope(query), student: wholeNumber(query.student) }),
  );
  return <Trends view={view} />;
}
