import type { Metadata } from 'next';
import { briefView } from '@/server/look/brief';
import { BriefPage } from '@/ui/brief/BriefPage';
import { page } from '../../../../../page-guard';
import { askedScope, wholeNumber, type PageProps } from '../../../../../query';

export const metadata: Metadata = { title: 'Student brief' };

export default async function StudentPage({ params, searchParams }: PageProps<{ code: string; id: string }>) {
  const { code, id } = await params;
  const query = await searchParams;
  const view = await page((viewer) => briefView(viewer, code, wholeNumber(id) ?? 0, askedScope(query)));
  return <BriefPage view={view} code={code} />;
}
