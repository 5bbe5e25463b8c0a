import type { Metadata } from 'next';
import { inClass } from '@/core/views/inClass';
import { itemsView } from '@/server/look/items';
import { InClass } from '@/ui/items/InClass';
import { NothingToShow } from '@/ui/items/NothingToShow';
import { page } from '../../../../../page-guard';
import { oneOf, wholeNumber, type PageProps } from '../../../../../query';

export const metadata: Metadata = { title: 'In class' };

export default async function InClassPage({ params, searchParams }: PageProps<{ code: string }>) {
  const { code } = await params;
  const query = await searchParams;
  const view = await page((viewer) => itemsView(viewer, code, { work: wholeNumber(query.work) }));
  // Only what is shown goes to the page: no names, nor who answered what.
  const shown = inClass(view, oneOf(query.item));
  return shown ? <InClass key={shown.item} view={shown} /> : <NothingToShow code={code} />;
}
