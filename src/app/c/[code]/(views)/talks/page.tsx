import type { Metadata } from 'next';
import { requireCourse } from '@/server/access/viewer';
import { talksView } from '@/server/look/talks';
import { Talks } from '@/ui/talks/Talks';
import { page } from '../../../../page-guard';

export const metadata: Metadata = { title: 'Talks' };

export default async function TalksPage({ params }: { params: Promise<{ code: string }> }) {
  const { code } = await params;
  const { zone, view } = await page(async (viewer) => ({
    zone: (await requireCourse(viewer, 'act', code)).zone,
    view: await talksView(viewer, code),
  }));
  return <Talks code={code} zone={zone} view={view} />;
}
