import type { Metadata } from 'next';
import { exampleKinds } from '@/server/intake/examples';
import { pastImports } from '@/server/intake/intake';
import { requireTaught } from '@/server/viewer';
import { Intake } from '@/ui/intake/Intake';
import { page } from '../../../page-guard';

export const metadata: Metadata = { title: 'Import' };

export default async function ImportPage({ params }: { params: Promise<{ code: string }> }) {
  const { code } = await params;
  const { zone, past } = await page(async (viewer) => ({
    zone: (await requireTaught(viewer, code)).zone,
    past: await pastImports(viewer, code),
  }));
  return <Intake code={code} zone={zone} past={past} examples={exampleKinds()} />;
}
