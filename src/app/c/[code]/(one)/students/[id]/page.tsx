import type { Metadata } from 'next';
import { briefView } from '@/server/look/brief';
import { BriefPage } from '@/ui/brief/BriefPage';
import { page } from '../../../../../page-guard';
import { wholeNumber } from '../../../../../query';

export const metadata: Metadata = { title: 'Student brief' };

export default async function StudentPage({ params }: { params: Promise<{ code: string; id: string }> }) {
  const { code, id } = await params;
  const brief = await page((viewer) => briefView(viewer, code, wholeNumber(id) ?? 0));
  return <BriefPage brief={brief} code={code} />;
}
