import type { Metadata } from 'next';
import { conversationView } from '@/server/look/conversation';
import { requireCourse } from '@/server/access/viewer';
import { Conversation } from '@/ui/conversation/Conversation';
import { page } from '../../../../../page-guard';
import { wholeInstant, wholeNumber } from '../../../../../query';

export const metadata: Metadata = { title: 'Conversation' };

export default async function ConversationPage({
  params,
  searchParams,
}: {
  params: Promise<{ code: string; id: string }>;
  searchParams: Promise<{ before?: string | string[] }>;
}) {
  const { code, id } = await params;
  const { before } = await searchParams;
  const { zone, conversation } = await page(async (viewer) => ({
    zone: (await requireCourse(viewer, 'look', code)).zone,
    conversation: await conversationView(viewer, code, wholeNumber(id) ?? 0, wholeInstant(before)),
  }));
  return <Conversation code={code} zone={zone} conversation={conversation} />;
}
