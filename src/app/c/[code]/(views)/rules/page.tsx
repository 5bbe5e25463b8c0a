import type { Metadata } from 'next';
import { rulesView } from '@/server/unasked/view';
import { Rules } from '@/ui/rules/Rules';
import { page } from '../../../../page-guard';
import { wholeNumber, type PageProps } from '../../../../query';

export const metadata: Metadata = { title: 'Rules' };

/** What is written unasked: the rules of a course, switched on and off, tried, approved, and what they did. */
export default async function RulesPage({ params, searchParams }: PageProps<{ code: string }>) {
  const { code } = await params;
  const logged = wholeNumber((await searchParams).log);
  return <Rules view={await page((viewer) => rulesView(viewer, code, logged))} />;
}
