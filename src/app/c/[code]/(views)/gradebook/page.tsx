import type { Metadata } from 'next';
import { gradebookView } from '@/server/look/gradebook';
import { Gradebook } from '@/ui/gradebook/Gradebook';
import { page } from '../../../../page-guard';
import { askedScope, type PageProps } from '../../../../query';

export const metadata: Metadata = { title: 'Gradebook' };

export default async function GradebookPage({ params, searchParams }: PageProps<{ code: string }>) {
  const { code } = await params;
  const asked = askedScope(await searchParams);
  const view = await page((viewer) => gradebookView(viewer, code, asked));
  return <Gradebook view={view} />;
}
