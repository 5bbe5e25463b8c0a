import type { Metadata } from 'next';
import dynamic from 'next/dynamic';
import { flagsView } from '@/server/act/settings';
import { rulesView } from '@/server/unasked/view';
import { page } from '../../../../page-guard';
import { oneOf, type PageProps } from '../../../../query';

export const metadata: Metadata = { title: 'Flags and rules' };

const Flags = dynamic(() => import('@/ui/rules/Flags').then((m) => m.Flags));
const Rules = dynamic(() => import('@/ui/rules/Rules').then((m) => m.Rules));

/** What raises a flag in Rounds, and what is written unasked: the rules of a course, each a sentence with its numbers. */
export default async function RulesPage({ params, searchParams }: PageProps<{ code: string }>) {
  const { code } = await params;
  if (oneOf((await searchParams).show) === 'flags')
    return <Flags code={code} view={await page((viewer) => flagsView(viewer, code))} />;
  return <Rules view={await page((viewer) => rulesView(viewer, code))} />;
}
