import type { Metadata } from 'next';
import { listsView } from '@/server/look/lists';
import { Lists } from '@/ui/lists/Lists';
import { page } from '../../../../page-guard';
import { askedScope, oneOf, type PageProps } from '../../../../query';

export const metadata: Metadata = { title: 'Lists' };

export default async function ListsPage({ params, searchParams }: PageProps<{ code: string }>) {
  const { code } = await params;
  const query = await searchParams;
  const view = await page((viewer) =>
    listsView(viewer, code, { ...askedScope(query), list: oneOf(query.list), due: oneOf(query.due) }),
  );
  // Another list is another table: its sorting starts anew.
  return <Lists key={view.list} view={view} />;
}
