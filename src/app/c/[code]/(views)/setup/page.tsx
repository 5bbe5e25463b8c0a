import type { Metadata } from 'next';
import { SETUP_PARTS } from '@/core/views/setup';
import { setupView } from '@/server/look/setup';
import { Setup } from '@/ui/setup/Setup';
import { page } from '../../../../page-guard';
import { oneOf, type PageProps } from '../../../../query';

export const metadata: Metadata = { title: 'Course setup' };

export default async function SetupPage({ params, searchParams }: PageProps<{ code: string }>) {
  const { code } = await params;
  const asked = oneOf((await searchParams).part);
  const view = await page((viewer) => setupView(viewer, code));
  return <Setup view={view} part={SETUP_PARTS.find((p) => p === asked) ?? 'check'} />;
}
