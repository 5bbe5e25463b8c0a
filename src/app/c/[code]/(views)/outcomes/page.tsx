import type { Metadata } from 'next';
import { outcomesView } from '@/server/look/outcomes';
import { Outcomes } from '@/ui/outcomes/Outcomes';
import { page } from '../../../../page-guard';
import { askedScope, type PageProps } from '../../../../query';

export const metadata: Metadata = { title: 'Outcomes' };

export default async function OutcomesPage({ params, searchParams }: PageProps<{ code: string }>) {
  const { code } = await params;
  const query = await searchParams;
  return <Outcomes view={await page((viewer) => outcomesView(viewer, code, askedScope(query)))} />;
}
