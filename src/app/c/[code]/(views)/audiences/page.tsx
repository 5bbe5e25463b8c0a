import type { Metadata } from 'next';
import { audiencesView } from '@/server/look/audiences';
import { Audiences } from '@/ui/audiences/Audiences';
import { page } from '../../../../page-guard';
import { oneOf, wholeNumber, type PageProps } from '../../../../query';

export const metadata: Metadata = { title: 'Audiences' };

/** Chooses students by a condition; an address can begin it, or open a saved one. */
export default async function AudiencesPage({ params, searchParams }: PageProps<{ code: string }>) {
  const { code } = await params;
  const query = await searchParams;
  const view = await page((viewer) =>
    audiencesView(viewer, code, { a: wholeNumber(query.a), where: oneOf(query.where) }),
  );
  // Another one opened, or another beginning, is another builder.
  return <Audiences key={`${view.open.id} ${oneOf(query.where) ?? ''}`} view={view} />;
}
