import type { Metadata } from 'next';
import { itemsView } from '@/server/look/items';
import { Items } from '@/ui/items/Items';
import { page } from '../../../../page-guard';
import { askedScope, oneOf, wholeNumber, type PageProps } from '../../../../query';

export const metadata: Metadata = { title: 'Items' };

export default async function ItemsPage({ params, searchParams }: PageProps<{ code: string }>) {
  const { code } = await params;
  const query = await searchParams;
  const view = await page((viewer) =>
    itemsView(viewer, code, { ...askedScope(query), work: wholeNumber(query.work), tab: oneOf(query.tab) }),
  );
  // Another quiz is another table.
  return <Items key={view.quiz?.id ?? 0} view={view} />;
}
