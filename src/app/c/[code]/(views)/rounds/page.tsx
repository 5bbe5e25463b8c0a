import type { Metadata } from 'next';
import { roundsView } from '@/server/look/rounds';
import { Rounds } from '@/ui/rounds/Rounds';
import { page } from '../../../../page-guard';
import { askedScope, oneOf, wholeNumber, type PageProps } from '../../../../query';

export const metadata: Metadata = { title: 'Rounds' };

export default async function RoundsPage({ params, searchParams }: PageProps<{ code: string }>) {
  const { code } = await params;
  const query = await searchParams;
  const view = await page((viewer) =>
    roundsView(viewer, code, {
      filter: oneOf(query.show),
      student: wholeNumber(query.student),
      minutes: wholeNumber(query.min),
      scope: askedScope(query),
    }),
  );
  return <Rounds view={view} />;
}
