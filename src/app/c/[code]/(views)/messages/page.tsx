import type { Metadata } from 'next';
import { courseMessages } from '@/server/act/messages';
import { conversations } from '@/server/look/conversation';
import { requireCourse, type Viewer } from '@/server/access/viewer';
import { ConversationList } from '@/ui/conversation/ConversationList';
import { MessageList } from '@/ui/messages/MessageList';
import { page } from '../../../../page-guard';
import { oneOf, wholeNumber, type Query } from '../../../../query';

export const metadata: Metadata = { title: 'Messages' };

interface Props {
  readonly params: Promise<{ code: string }>;
  readonly searchParams: Promise<Query>;
}

export default async function MessagesPage({ params, searchParams }: Props) {
  const { code } = await params;
  const query = await searchParams;
  const zoneOf = async (viewer: Viewer) => (await requireCourse(viewer, 'look', code)).zone;
  if (oneOf(query.show) === 'answers') {
    const { zone, lines } = await page(async (viewer) => ({
      zone: await zoneOf(viewer),
      lines: await conversations(viewer, code),
    }));
    return <ConversationList code={code} zone={zone} lines={lines} />;
  }
  const { zone, messages } = await page(async (viewer) => ({
    zone: await zoneOf(viewer),
    messages: await courseMessages(viewer, code, wholeNumber(query.before)),
  }));
  return <MessageList code={code} zone={zone} page={messages} />;
}
