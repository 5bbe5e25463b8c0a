import type { Metadata } from 'next';
import { messageView } from '@/server/act/messages';
import { requireCourse } from '@/server/access/viewer';
import { MessageDetail } from '@/ui/messages/MessageDetail';
import { page } from '../../../../../page-guard';
import { wholeNumber } from '../../../../../query';

export const metadata: Metadata = { title: 'Message' };

export default async function MessagePage({ params }: { params: Promise<{ code: string; id: string }> }) {
  const { code, id } = await params;
  const { zone, message } = await page(async (viewer) => ({
    zone: (await requireCourse(viewer, 'look', code)).zone,
    message: await messageView(viewer, code, wholeNumber(id) ?? 0),
  }));
  return <MessageDetail code={code} zone={zone} message={message} />;
}
