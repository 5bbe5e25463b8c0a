import type { Metadata } from 'next';
import { conversationView } from '@/server/look/conversation';
import { requireCourse } from '@/server/access/viewer';
import { Conversation } from '@/ui/conversation/Conversation';
import { page } from '../../../../../page-guard';
import { wholeNumber } from '../../../../../query';

export const metadata: Metadata = { title: 'Conversation' };

export default async function ConversationPage({
  params,
}: {
  params: Promise<{ code: string; id: string }>;
}) {
  const { code, id } = await params;
  const { zone, conversation } = await page(async (viewer) => ({
    zone: (await requireCourse(viewer, 'look', code)).zone,
    conversation: await conversationView(viewer, code, wholeNumber(id) ?? 0),
  }));
  return <Conversation code={code} zone={zone} conversation={conversation} />;
}
