import type { Metadata } from 'next';
import { now } from '@/server/clock';
import { roundsView } from '@/server/rounds';
import { Rounds } from '@/ui/rounds/Rounds';
import { page } from '../../../page-guard';
import { oneOf, wholeNumber } from '../../../query';

export const metadata: Metadata = { title: 'Rounds' };

interface Props {
  params: Promise<{ code: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}

export default async function RoundsPage({ params, searchParams }: Props) {
  const { code } = await params;
  const query = await searchParams;
  const view = await page((viewer) =>
    roundsView(viewer, code, { filter: oneOf(query.show), student: wholeNumber(query.student) }),
  );
  return <Rounds view={view} now={now()} />;
}
