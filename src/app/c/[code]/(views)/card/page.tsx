import type { Metadata } from 'next';
import { requireCourse } from '@/server/access/viewer';
import { cardView } from '@/server/look/card';
import { Card } from '@/ui/card/Card';
import { page } from '../../../../page-guard';
import { wholeNumber, type PageProps } from '../../../../query';

export const metadata: Metadata = { title: 'Card for the next meeting' };

export default async function CardPage({ params, searchParams }: PageProps<{ code: string }>) {
  const { code } = await params;
  const section = wholeNumber((await searchParams).s);
  const { zone, card } = await page(async (viewer) => ({
    zone: (await requireCourse(viewer, 'act', code)).zone,
    card: await cardView(viewer, code, section),
  }));
  return <Card key={card.section?.id} code={code} zone={zone} card={card} />;
}
