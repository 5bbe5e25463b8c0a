import type { Metadata } from 'next';
import { courseMessages } from '@/server/messages';
import { requireTaught } from '@/server/viewer';
import { MessageList } from '@/ui/messages/MessageList';
import { page } from '../../../../page-guard';

export const metadata: Metadata = { title: 'Messages' };

export default async function MessagesPage({ params }: { params: Promise<{ code: string }> }) {
  const { code } = await params;
  const { zone, messages } = await page(async (viewer) => ({
    zone: (await requireTaught(viewer, code)).zone,
    messages: await courseMessages(viewer, code),
  }));
  return <MessageList code={code} zone={zone} messages={messages} />;
}
