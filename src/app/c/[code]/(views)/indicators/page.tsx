import type { Metadata } from 'next';
import { courseSettings } from '@/server/act/settings';
import { Indicators } from '@/ui/settings/Indicators';
import { page } from '../../../../page-guard';

export const metadata: Metadata = { title: 'Indicators' };

export default async function IndicatorsPage({ params }: { params: Promise<{ code: string }> }) {
  const { code } = await params;
  const settings = await page((viewer) => courseSettings(viewer, code));
  return <Indicators code={code} settings={settings} />;
}
