import type { Metadata } from 'next';
import { workView } from '@/server/look/work';
import { Work } from '@/ui/work/Work';
import { page } from '../../../../../page-guard';
import { askedScope, wholeNumber, type PageProps } from '../../../../../query';

export const metadata: Metadata = { title: 'Assignment' };

export default async function WorkPage({ params, searchParams }: PageProps<{ code: string; id: string }>) {
  const { code, id } = await params;
  const asked = askedScope(await searchParams);
  const view = await page((viewer) => workView(viewer, code, wholeNumber(id) ?? 0, asked));
  return <Work view={view} />;
}
