import type { Metadata } from 'next';
import { passingView } from '@/server/look/passing';
import { Passing } from '@/ui/passing/Passing';
import { page } from '../../../../page-guard';

export const metadata: Metadata = { title: 'Note in passing' };

export default async function PassingPage({ params }: { params: Promise<{ code: string }> }) {
  const { code } = await params;
  return <Passing code={code} view={await page((viewer) => passingView(viewer, code))} />;
}
