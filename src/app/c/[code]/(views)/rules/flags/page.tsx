import type { Metadata } from 'next';
import { flagsView } from '@/server/act/settings';
import { Flags } from '@/ui/rules/Flags';
import { page } from '../../../../../page-guard';
import type { PageProps } from '../../../../../query';

export const metadata: Metadata = { title: 'Flags' };

/** What raises a flag in Rounds: the thresholds of a course, each a sentence with its numbers. */
export default async function FlagsPage({ params }: PageProps<{ code: string }>) {
  const { code } = await params;
  return <Flags code={code} view={await page((viewer) => flagsView(viewer, code))} />;
}
